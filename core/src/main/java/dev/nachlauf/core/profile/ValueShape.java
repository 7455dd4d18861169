package dev.nachlauf.core.profile;

/**
 * What a value looks like: digits become 9, capital letters A, small ones a, everything else stays. Of letters
 * more than four of a kind are cut, of digits, whose number tells codes apart, more than twelve: {@code BR-00042} is {@code
 * AA-99999}, {@code Föhrenstein} is {@code Aaaaa+}.
 */
final class ValueShape {
    private static final int LETTERS = 4;
    private static final int DIGITS = 12;
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
            int longest = sign == '9' ? DIGITS : sign == 'a' || sign == 'A' ? LETTERS : LONGEST;
            if (run <= longest) {
                shape.append(sign);
            } else if (run == longest + 1) {
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
