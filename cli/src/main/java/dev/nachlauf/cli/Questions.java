package dev.nachlauf.cli;

import dev.nachlauf.api.ParameterView;
import dev.nachlauf.api.StartQuestions;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.Charset;
import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Asks a person for what a job can't start without. A script is never asked: it is told what is missing. */
final class Questions {
    private final Surroundings around;
    private final ServiceClient service;

    Questions(Surroundings around, ServiceClient service) {
        this.around = around;
        this.service = service;
    }

    /** The given values and the answers; where nobody answers, the service says what is missing. */
    Map<String, String> ask(String job, Map<String, String> given) {
        if (!around.asks()) {
            return given;
        }
        Map<String, String> values = new HashMap<>(given);
        BufferedReader answers = new BufferedReader(new InputStreamReader(around.input(), Charset.defaultCharset()));
        String path = "/jobs/" + ServiceClient.encode(job) + "/questions";
        for (ParameterView parameter : service.get(path, StartQuestions.class).parameters()) {
            if (parameter.required() && !values.containsKey(parameter.name())) {
                around.err().println(PlainText.forTerminal(question(parameter)));
                String answer = line(answers);
                if (answer != null && !answer.isBlank()) {
                    values.put(parameter.name(), answer.strip());
                }
            }
        }
        return values;
    }

    private static String question(ParameterView parameter) {
        String asked = parameter.question().isEmpty() ? "" : " – " + parameter.question();
        String kind = parameter.list() ? parameter.kind() + ", several, separated by commas" : parameter.kind();
        String choices = parameter.allowed().isEmpty() ? "" : "; one of " + String.join(", ", parameter.allowed());
        return parameter.name() + asked + " (" + kind + choices + "):";
    }

    private static @Nullable String line(BufferedReader answers) {
        try {
            return answers.readLine();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
