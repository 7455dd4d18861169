package dev.nachlauf.core.issue;

import dev.nachlauf.core.job.Issue;
import dev.nachlauf.core.system.OutputFormat.RowWriter;
import dev.nachlauf.core.template.TextTemplate;
import dev.nachlauf.core.value.Values;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.Charset;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** Writes a text: a head, a piece for each row, a foot. */
final class TextWriter implements RowWriter {
    private final OutputStream out;
    private final Issue.Text text;
    private final TextTemplate each;
    private final List<String> fields;
    private final Map<String, String> around;
    private final Charset charset;

    /** @param around what head and foot may hold */
    TextWriter(OutputStream out, Issue.Text text, List<String> fields, Map<String, String> around) throws IOException {
        this.out = out;
        this.text = text;
        this.each = text.each().withLineEnds(text.lineEnd());
        this.fields = fields;
        this.around = around;
        this.charset = Charset.forName(text.encoding());
        write(text.head().withLineEnds(text.lineEnd()), around);
    }

    @Override
    public void row(@Nullable Object[] values) throws IOException {
        Map<String, String> named = new HashMap<>();
        for (int i = 0; i < fields.size(); i++) {
            named.put(fields.get(i), Objects.requireNonNullElse(Values.text(values[i]), ""));
        }
        write(each, named);
    }

    private void write(TextTemplate template, Map<String, String> values) throws IOException {
        Function<String, String> value = name -> values.getOrDefault(name, "");
        out.write(template.filled(value, text.escape()).getBytes(charset));
    }

    @Override
    public void close() throws IOException {
        write(text.foot().withLineEnds(text.lineEnd()), around);
    }
}
