package dev.nachlauf.core.record;

import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.List;

/** Keys as bytes that are equal exactly for equal keys: texts are compared exactly, numbers without regard to their scale. */
public final class KeyBytes {
    private KeyBytes() {}

    /** The bytes of a key whose parts are not null. */
    public static byte[] of(List<?> parts) {
        if (parts.size() == 1) {
            return bytes(parts.getFirst());
        }
        ByteSink out = new ByteSink(64);
        for (Object part : parts) {
            byte[] bytes = bytes(part);
            out.int4(bytes.length);
            out.bytes(bytes);
        }
        return out.toArray();
    }

    private static byte[] bytes(Object part) {
        Object plain = part instanceof BigDecimal number ? number.stripTrailingZeros() : part;
        return String.valueOf(Values.text(plain)).getBytes(StandardCharsets.UTF_8);
    }
}
