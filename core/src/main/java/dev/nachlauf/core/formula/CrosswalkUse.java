package dev.nachlauf.core.formula;

import dev.nachlauf.core.formula.Token.Type;
import dev.nachlauf.core.problem.Problem;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * That a formula translates by a crosswalk, as far as its words alone tell; the formula may be wrong in other ways.
 *
 * @param field the field that is translated as it stands; empty where more than a field is translated
 */
public record CrosswalkUse(String crosswalk, Optional<String> field) {

    /** The uses in the order of the text; a text that is no formula has none. */
    public static List<CrosswalkUse> in(String formula) {
        List<CrosswalkUse> uses = new ArrayList<>();
        if (!formula.toLowerCase(Locale.ROOT).contains("crosswalk") || formula.length() > Formula.LONGEST) {
            return uses;
        }
        List<Problem> ignored = new ArrayList<>();
        List<Token> tokens;
        try {
            tokens = Lexer.tokens(formula, new Findings(FormulaSource.of(formula), ignored));
        } catch (Findings.Stop e) {
            return uses;
        }
        for (int i = 0; i + 2 < tokens.size(); i++) {
            boolean call =
                    tokens.get(i).isWord("crosswalk") && tokens.get(i + 1).isSymbol("(");
            if (call && tokens.get(i + 2).type() == Type.TEXT) {
                uses.add(new CrosswalkUse(tokens.get(i + 2).text(), field(tokens, i + 3)));
            }
        }
        return uses;
    }

    /** The name between two commas, or a comma and the closing parenthesis. */
    private static Optional<String> field(List<Token> tokens, int comma) {
        if (!tokens.get(comma).isSymbol(",")) {
            return Optional.empty();
        }
        StringBuilder name = new StringBuilder();
        int at = comma + 1;
        while (isName(tokens.get(at))) {
            name.append(tokens.get(at++).text());
            if (!tokens.get(at).isSymbol(".")) {
                boolean alone = tokens.get(at).isSymbol(",") || tokens.get(at).isSymbol(")");
                return alone ? Optional.of(name.toString()) : Optional.empty();
            }
            name.append('.');
            at++;
        }
        return Optional.empty();
    }

    private static boolean isName(Token token) {
        return token.type() == Type.WORD || token.type() == Type.QUOTED_NAME;
    }
}
