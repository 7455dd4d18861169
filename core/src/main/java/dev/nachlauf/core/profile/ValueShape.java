package dev.nachlauf.core.profile;

/**
 * What a value looks like: digits become 9, capital letters A, small ones a, everything else stays. From five of a kind on
 * the run is cut: {@code BR-0042} is {@code AA-9999}, {@code Föhrenstein} is {@code Aaaaa+}.
 */
final class ValueShape {
    private static final int LONGEST_RUN = 4;
    private static final int LONGEST = 60;

    private ValueShape() {}

    static String of(String value) {
        StringBuilder shape = new StringBuilder(Math.min(value.length(), LONGEST));
        char last = 0;
        int run = 0;
        for (int i = 0; i < value.length() && shape.length() < LONGEST; i++) {
            char sign = sign(value.charAt(i));
            run = sign == last ? run + 1 : 1;
            last = sign;
            boolean cut = sign == '9' || sign == 'a' || sign == 'A';
            if (!cut || run <= LONGEST_RUN) {
                shape.append(sign);
            } else if (run == LONGEST_RUN + 1) {
                shape.append('+');
            }
        }
        return shape.toString();
    }

    private static char sign(char c) {
        if (Character.isDigit(c)) {
            return '9';
        }
        if (Character.isLetter(c)) {
            return Character.isUpperCase(c) ? 'A' : 'a';
        }
        return Character.isWhitespace(c) ? ' ' : c;
    }
}
