package dev.nachlauf.core.plan;

import dev.nachlauf.core.job.Issue;
import dev.nachlauf.core.job.Placed;
import dev.nachlauf.core.job.Step.Among;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.system.FieldDescription;
import dev.nachlauf.core.system.RecordDescription;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;

/** Looks at the record types and files that a job names. */
@FunctionalInterface
public interface Described {
    /**
     * What a record type demands; empty where it can't be looked at, which is said.
     *
     * @param written whether the job writes it; else it is only asked
     */
    Optional<RecordDescription> of(
            Placed<String> connection, Placed<String> records, boolean written, List<Problem> problems);

    /** The columns of a file as fields of records; empty where it can't be looked at, which is said. */
    default Optional<RecordDescription> of(Among.File file, List<Problem> problems) {
        problems.add(Problem.at(
                file.file().place(), ProblemCode.CONNECTION_UNFIT, "Only records of systems are looked at here.", ""));
        return Optional.empty();
    }

    /**
     * A file that is to be issued.
     *
     * @param name its name, with the values of parameters
     * @param demanded what a field of it has to be
     * @param columns those of the file that is there and keeps its rows; empty where none is
     */
    record IssuedFile(String name, UnaryOperator<FieldDescription> demanded, Optional<List<String>> columns) {
        /** A file that is written anew. */
        public IssuedFile(String name, UnaryOperator<FieldDescription> demanded) {
            this(name, demanded, Optional.empty());
        }
    }

    /** Whether a file can be delivered, and how it is spelled; empty where it can't, which is said. */
    default Optional<IssuedFile> issued(
            Placed<String> connection, Placed<String> file, Issue issue, List<Problem> problems) {
        problems.add(
                Problem.at(file.place(), ProblemCode.CONNECTION_UNFIT, "No files can be delivered from here.", ""));
        return Optional.empty();
    }

    /** The fields of what a lookup finds. */
    default Optional<RecordDescription> of(Among among, List<Problem> problems) {
        return switch (among) {
            case Among.Records records -> of(records.connection(), records.records(), false, problems);
            case Among.File file -> of(file, problems);
        };
    }
}
