package dev.nachlauf.core.function;

import static dev.nachlauf.core.value.Kind.BOOLEAN;
import static dev.nachlauf.core.value.Kind.TEXT;

import dev.nachlauf.core.function.Function.Topic;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.UUID;

/** Functions that make and check codes: digests, names as identifiers, check digits. */
final class CodeFunctions {
    /** The namespaces of RFC 9562, appendix on name spaces. */
    private static final Map<String, UUID> NAMESPACES = Map.of(
            "dns", UUID.fromString("6ba7b810-9dad-11d1-80b4-00c04fd430c8"),
            "url", UUID.fromString("6ba7b811-9dad-11d1-80b4-00c04fd430c8"),
            "oid", UUID.fromString("6ba7b812-9dad-11d1-80b4-00c04fd430c8"),
            "x500", UUID.fromString("6ba7b814-9dad-11d1-80b4-00c04fd430c8"));

    private static final String NOT_DIGITS = "The text is empty, or holds another character.";

    private CodeFunctions() {}

    private static Definition text(String name) {
        return Definition.of(Topic.CODES, name).takes("text", TEXT).gives(TEXT);
    }

    static List<Function> all() {
        return List.of(
                text("mod10")
                        .help("The check digit of a text of digits by the mod-10 rule of ISO/IEC 7812-1.")
                        .errors(NOT_DIGITS)
                        .example("mod10('7992739871')", "3")
                        .is((a, b, c) -> String.valueOf((10 - weighed(requireDigits((String) a), true) % 10) % 10)),
                text("mod10_valid")
                        .gives(BOOLEAN)
                        .help("Whether the last of the digits is the check digit of the others by the mod-10 rule.")
                        .example("mod10_valid('79927398713')", "true")
                        .is((a, b, c) -> isDigits((String) a)
                                && ((String) a).length() > 1
                                && weighed((String) a, false) % 10 == 0),
                text("mod97")
                        .help("The two check digits of a text of digits and letters by MOD 97-10 of ISO/IEC 7064.")
                        .errors(NOT_DIGITS)
                        .example("mod97('794')", "44")
                        .is((a, b, c) -> checkDigits((String) a)),
                text("mod97_valid")
                        .gives(BOOLEAN)
                        .help("Whether the last two characters are the check digits of the others by MOD 97-10.")
                        .example("mod97_valid('79444')", "true")
                        .is((a, b, c) -> ((String) a).length() > 2 && remainder((String) a) == 1),
                text("sha256")
                        .help("The SHA-256 digest of the text in UTF-8, as 64 hexadecimal digits.")
                        .example("sha256('H-017')", "f35c5306701180b785556593851a37b140c9a1e488540360971564772a865124")
                        .is((a, b, c) -> HexFormat.of().formatHex(digest("SHA-256", bytes((String) a)))),
                Definition.of(Topic.CODES, "uuid_of")
                        .takes("namespace", TEXT)
                        .takes("name", TEXT)
                        .gives(TEXT)
                        .help(
                                "The identifier of a name as in RFC 9562, version 5; the namespace is dns, url, oid, x500 or an"
                                        + " identifier.")
                        .errors("The namespace is none.")
                        .example("uuid_of('dns', 'falkenkar.example')", "d3a55e2d-5bb3-5450-a2f8-eac99dc56196")
                        .is((a, b, c) -> uuid((String) a, String.valueOf(b))));
    }

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    private static byte[] digest(String algorithm, byte[] bytes) {
        try {
            return MessageDigest.getInstance(algorithm).digest(bytes);
        } catch (NoSuchAlgorithmException e) {
            throw new IllegalStateException("every Java has " + algorithm, e);
        }
    }

    private static boolean isDigits(String text) {
        return !text.isEmpty() && text.chars().allMatch(c -> c >= '0' && c <= '9');
    }

    private static String requireDigits(String text) {
        if (!isDigits(text)) {
            throw notDigits(text, "digits");
        }
        return text;
    }

    /** The sum with every second digit doubled, from the right; its digits are added. */
    private static int weighed(String digits, boolean doubleLast) {
        int sum = 0;
        boolean doubled = doubleLast;
        for (int i = digits.length() - 1; i >= 0; i--) {
            int digit = (digits.charAt(i) - '0') * (doubled ? 2 : 1);
            sum += digit > 9 ? digit - 9 : digit;
            doubled = !doubled;
        }
        return sum;
    }

    private static String checkDigits(String text) {
        int remainder = remainder(text + "00");
        if (remainder < 0 || text.isEmpty()) {
            throw notDigits(text, "digits and letters");
        }
        return String.format("%02d", 98 - remainder);
    }

    /** The remainder by 97, letters counted from 10; -1 where there is another character. */
    private static int remainder(String text) {
        int remainder = 0;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c >= '0' && c <= '9') {
                remainder = (remainder * 10 + c - '0') % 97;
            } else if (c >= 'A' && c <= 'Z' || c >= 'a' && c <= 'z') {
                remainder = (remainder * 100 + Character.toUpperCase(c) - 'A' + 10) % 97;
            } else {
                return -1;
            }
        }
        return remainder;
    }

    private static ValueProblem notDigits(String text, String made) {
        return new ValueProblem(
                ProblemCode.VALUE_MALFORMED, "'" + Values.shortened(text) + "' is not made of " + made + ".");
    }

    private static String uuid(String namespace, String name) {
        UUID space = NAMESPACES.get(namespace);
        if (space == null) {
            try {
                space = UUID.fromString(namespace);
            } catch (IllegalArgumentException e) {
                throw new ValueProblem(
                        ProblemCode.VALUE_MALFORMED,
                        "'" + Values.shortened(namespace) + "' is no namespace: dns, url, oid, x500 or an identifier.");
            }
        }
        byte[] named = bytes(name);
        byte[] hash = digest(
                "SHA-1",
                ByteBuffer.allocate(16 + named.length)
                        .putLong(space.getMostSignificantBits())
                        .putLong(space.getLeastSignificantBits())
                        .put(named)
                        .array());
        hash[6] = (byte) (hash[6] & 0x0f | 0x50);
        hash[8] = (byte) (hash[8] & 0x3f | 0x80);
        ByteBuffer first = ByteBuffer.wrap(hash);
        return new UUID(first.getLong(), first.getLong()).toString();
    }
}
