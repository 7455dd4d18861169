package dev.nachlauf.core.system;

import java.nio.charset.Charset;
import java.nio.charset.CharsetEncoder;
import java.util.Optional;

/**
 * Which characters a text may hold.
 *
 * @param encoding the name of the encoding that has all of them; empty where any character fits
 * @param oneLine whether line ends and other control characters have no place
 */
public record Characters(Optional<String> encoding, boolean oneLine) {
    /** Any. */
    public static final Characters ANY = new Characters(Optional.empty(), false);

    private static final int ASCII = 0x80;

    /** Those of an encoding; all where it is one of Unicode. */
    public static Characters of(Charset charset) {
        return charset.name().startsWith("UTF-") ? ANY : new Characters(Optional.of(charset.name()), false);
    }

    /** The same, on one line. */
    public Characters onOneLine() {
        return new Characters(encoding, true);
    }

    /** Why a text may not be; empty where it may. */
    public Optional<String> refusal(String text) {
        if (oneLine && text.codePoints().anyMatch(Character::isISOControl)) {
            return Optional.of("The text holds a line end or another control character, and stands on one line.");
        }
        return encoding.flatMap(name -> lacking(text, name));
    }

    private static Optional<String> lacking(String text, String name) {
        if (text.chars().allMatch(c -> c < ASCII)) {
            return Optional.empty();
        }
        CharsetEncoder encoder = Charset.forName(name).newEncoder();
        return text.codePoints()
                .mapToObj(Character::toString)
                .filter(character -> !encoder.canEncode(character))
                .findFirst()
                .map(character -> "The text holds " + character + ", which " + name + " doesn't have.");
    }
}
