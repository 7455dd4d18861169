package dev.nachlauf.service.file;

import dev.nachlauf.service.file.InstallationMarker.WrongHome;
import org.springframework.boot.diagnostics.AbstractFailureAnalyzer;
import org.springframework.boot.diagnostics.FailureAnalysis;

/** Says in two sentences why the service doesn't start, where a stack trace would not tell what to do. */
class WrongHomeAnalyzer extends AbstractFailureAnalyzer<WrongHome> {
    @Override
    protected FailureAnalysis analyze(Throwable root, WrongHome cause) {
        return new FailureAnalysis(
                cause.getMessage(), "Set NACHLAUF_HOME to the folder that was used with this database before.", root);
    }
}
