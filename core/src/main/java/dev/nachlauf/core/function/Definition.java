package dev.nachlauf.core.function;

import dev.nachlauf.core.function.Function.Body;
import dev.nachlauf.core.function.Function.Parameter;
import dev.nachlauf.core.function.Function.Preparation;
import dev.nachlauf.core.function.Function.Topic;
import dev.nachlauf.core.value.Kind;
import java.util.ArrayList;
import java.util.List;

/** Collects what belongs to a function, so that a row of the table reads as a sentence. */
final class Definition {
    private final Topic topic;
    private final String name;
    private final List<Parameter> parameters = new ArrayList<>();
    private int required;
    private Kind result = Kind.TEXT;
    private String help = "";
    private String errors = "";
    private String example = "";
    private String exampleResult = "";

    private Definition(Topic topic, String name) {
        this.topic = topic;
        this.name = name;
    }

    static Definition of(Topic topic, String name) {
        return new Definition(topic, name);
    }

    Definition takes(String parameter, Kind kind) {
        parameters.add(new Parameter(parameter, kind));
        required = parameters.size();
        return this;
    }

    /** A parameter that may be left out. */
    Definition perhaps(String parameter, Kind kind) {
        parameters.add(new Parameter(parameter, kind));
        return this;
    }

    Definition gives(Kind kind) {
        result = kind;
        return this;
    }

    Definition help(String sentence) {
        help = sentence;
        return this;
    }

    Definition errors(String when) {
        errors = when;
        return this;
    }

    Definition example(String formula, String gives) {
        example = formula;
        exampleResult = gives;
        return this;
    }

    Function is(Body body) {
        return prepared((second, third) -> body);
    }

    Function prepared(Preparation preparation) {
        return new Function(
                name, topic, parameters, required, result, help, errors, example, exampleResult, preparation);
    }
}
