package dev.nachlauf.core.formula;

import static org.assertj.core.api.Assertions.assertThat;

import dev.nachlauf.core.formula.Token.Type;
import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.problem.ProblemCode;
import dev.nachlauf.core.text.Position;
import dev.nachlauf.core.text.Span;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class LexerTest {
    private final List<Problem> problems = new ArrayList<>();

    private List<Token> tokens(String text) {
        return Lexer.tokens(text, new Findings(FormulaSource.of(text), problems));
    }

    @Test
    void tokensKnowWhatTheyAreAndWhereTheyStand() {
        assertThat(tokens("beds>= 12 || \"Hut no.\""))
                .containsExactly(
                        new Token(Type.WORD, "beds", new Span(0, 4)),
                        new Token(Type.SYMBOL, ">=", new Span(4, 6)),
                        new Token(Type.INTEGER, "12", new Span(7, 9)),
                        new Token(Type.SYMBOL, "||", new Span(10, 12)),
                        new Token(Type.QUOTED_NAME, "Hut no.", new Span(13, 22)),
                        new Token(Type.END, "", new Span(22, 22)));
    }

    @Test
    void aDoubledQuoteStandsForOne() {
        assertThat(tokens("'l''été'").getFirst().text()).isEqualTo("l'été");
        assertThat(tokens("\"so \"\"called\"\"\"").getFirst().text()).isEqualTo("so \"called\"");
    }

    @Test
    void pointsTellDecimalsFromIntegersAndNames() {
        assertThat(tokens("1 1. .5 1.50 root.beds").stream().map(Token::type).toList())
                .containsExactly(
                        Type.INTEGER,
                        Type.DECIMAL,
                        Type.DECIMAL,
                        Type.DECIMAL,
                        Type.WORD,
                        Type.SYMBOL,
                        Type.WORD,
                        Type.END);
    }

    @Test
    void aParameterStandsBehindItsColon() {
        assertThat(tokens(":season").getFirst()).isEqualTo(new Token(Type.PARAMETER, "season", new Span(0, 7)));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            quoteCharacter = '`',
            value = {
                "a & b§1§3§Text is joined with ||.",
                "a % 2§1§3§mod(a, b)",
                "“a”§1§1§straight quotes",
                "1a§1§1§starts with a digit",
                "'open§1§1§Add a closing '.",
                "a = \"\"§1§5§Empty text is ''.",
                "a ; b§1§3§",
            })
    void whatHasNoMeaningIsSaidWhereItStands(String text, int line, int column, String remedy) {
        assertThat(tokens(text)).extracting(Token::type).contains(Type.BROKEN).endsWith(Type.END);
        assertThat(problems).hasSize(1);
        assertThat(problems.getFirst().code()).isEqualTo(ProblemCode.FORMULA_SYNTAX);
        assertThat(problems.getFirst().remedy()).contains(remedy == null ? "" : remedy);
        Place.InText place = (Place.InText) problems.getFirst().place();
        assertThat(place.position()).isEqualTo(new Position(line, column));
    }
}
