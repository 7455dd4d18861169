package dev.nachlauf.core.profile;

import dev.nachlauf.core.profile.KeyFigures.Repeat;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.value.Values;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/** Finds rows that stand more than once with all their values. */
final class WholeRows implements AutoCloseable {
    private static final KeyTally.Visitor NOBODY = parts -> {};

    private final KeyTally digests;
    private final MessageDigest digest;

    WholeRows(Path scratch) {
        this.digests = new KeyTally(scratch);
        try {
            this.digest = MessageDigest.getInstance("SHA-256");
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has SHA-256", e);
        }
    }

    void add(SourceRow row) {
        for (Object cell : row.cells()) {
            String text = Values.text(cell);
            if (text != null) {
                digest.update(text.getBytes(StandardCharsets.UTF_8));
            }
            // an empty cell is not the end of the one before it
            digest.update((byte) (text == null ? 1 : 0));
        }
        digests.add(new String[] {HexFormat.of().formatHex(digest.digest())}, row.number());
    }

    /** What is to be said of them; empty where all rows differ. */
    Optional<Profile.Remark> remark() {
        KeyFigures figures = digests.figures(List.of(), NOBODY);
        if (figures.repeated() == 0) {
            return Optional.empty();
        }
        Repeat first = figures.examples().getFirst();
        String rows = first.rows().stream().map(String::valueOf).collect(Collectors.joining(", "));
        return Optional.of(new Profile.Remark(
                Profile.Remark.REPEATED,
                List.of(),
                figures.repeated() + " rows stand more than once with all their values, such as the rows " + rows
                        + (first.count() > first.rows().size() ? ", …" : "") + "."));
    }

    @Override
    public void close() {
        digests.close();
    }
}
