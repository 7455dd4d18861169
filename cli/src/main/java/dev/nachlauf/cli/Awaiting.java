package dev.nachlauf.cli;

import dev.nachlauf.api.LookView;
import java.io.IOException;
import java.util.Optional;

/** Stays with a look that takes longer than one answer does: progress on a terminal, and a stop where the command ends. */
final class Awaiting {
    private static final int ACCEPTED = 202;
    private static final String A_MOMENT = "wait=1";

    private final Calls calls;
    private final TerminalLine progress;

    /** Makes calls to addresses of the service. */
    interface Calls {
        Call to(String address) throws IOException;
    }

    Awaiting(Calls calls, TerminalLine progress) {
        this.calls = calls;
        this.progress = progress;
    }

    /** Where the result of a look will be; empty where the answer is the result. */
    static Optional<String> of(Call.Answer answer) {
        return answer.status() == ACCEPTED ? answer.location() : Optional.empty();
    }

    /** The answer that the call would have had. */
    Call.Answer result(String address) throws IOException {
        Thread stop = new Thread(() -> stop(address));
        Runtime.getRuntime().addShutdownHook(stop);
        try {
            Call.Answer answer = ask(address);
            while (answer.status() == ACCEPTED) {
                progress.show(line(ServiceClient.JSON.readValue(answer.body(), LookView.class)));
                answer = ask(address);
            }
            progress.clear();
            return answer;
        } finally {
            Runtime.getRuntime().removeShutdownHook(stop);
        }
    }

    private Call.Answer ask(String address) throws IOException {
        return calls.to(address).with("Prefer", A_MOMENT).get();
    }

    private static String line(LookView look) {
        return look.what() + " " + look.state()
                + (look.rows() == 0 ? "" : " " + Output.number(look.rows()) + " rows read");
    }

    /** Nobody waits for it any more. */
    private void stop(String address) {
        try {
            calls.to(address.replaceAll("/result$", "/stop")).post(Body.NONE);
        } catch (IOException e) {
            // it ends at its deadline
        }
    }
}
