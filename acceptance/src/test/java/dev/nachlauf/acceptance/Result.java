package dev.nachlauf.acceptance;

import java.util.List;
import java.util.stream.Collectors;
import tools.jackson.databind.JsonNode;

/** What a call of the client left behind. */
public record Result(int status, String out, String err) {
    public JsonNode json() {
        return Installation.JSON.readTree(out);
    }

    /** Why the run that is the answer failed, as people are told. */
    public String reasons() {
        return json().get("reasons")
                .valueStream()
                .map(reason -> reason.get("rendered").asString())
                .collect(Collectors.joining("\n"));
    }

    public List<JsonNode> lines() {
        return out.lines().map(Installation.JSON::readTree).toList();
    }
}
