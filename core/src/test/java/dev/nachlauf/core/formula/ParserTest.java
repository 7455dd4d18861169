package dev.nachlauf.core.formula;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.problem.Place;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.text.Position;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The tree, written with a parenthesis around everything. */
class ParserTest {
    private final List<Problem> problems = new ArrayList<>();

    private Expression parse(String text) {
        Findings findings = new Findings(FormulaSource.of(text), problems);
        return Parser.parse(Lexer.tokens(text, findings), findings);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            quoteCharacter = '`',
            value = {
                "a or b and not c§(a or (b and (not c)))",
                "a + b * c - d§((a + (b * c)) - d)",
                "a / b / c§((a / b) / c)",
                "- a * b§((- a) * b)",
                "- - a§a",
                "a || b + c§(a || (b + c))",
                "a || b || c§((a || b) || c)",
                "a = b || c§(a = (b || c))",
                "not a = b§(not (a = b))",
                "a between b and c and d§((a between b and c) and d)",
                "a not in (b, c + 1)§(a not in b, (c + 1))",
                "a like b escape c or d§((a like b escape c) or d)",
                "a is not null and b§((a is not null) and b)",
                "a is distinct from b + 1§(a is distinct from (b + 1))",
                "a < b is unknown§((a < b) is unknown)",
                "case when a then b else c end§(case when a then b else c)",
                "case a when b then c end || d§((case a when b then c) || d)",
                "cast(a as decimal(5, 2)) + 1§((a as decimal 5,2) + 1)",
                "warden.warden_id = :id§(warden.warden_id = :id)",
            })
    void operatorsBindAsInSql(String text, String tree) {
        assertThat(shown(parse(text))).isEqualTo(tree);
    }

    private static String shown(Expression tree) {
        return switch (tree) {
            case Expression.Literal literal -> String.valueOf(literal.value());
            case Expression.Name name -> name.name();
            case Expression.Parameter parameter -> ":" + parameter.name();
            case Expression.Not not -> "(not " + shown(not.operand()) + ")";
            case Expression.Negate negate -> "(- " + shown(negate.operand()) + ")";
            case Expression.Binary binary ->
                "(" + shown(binary.left()) + " " + binary.operator().symbol() + " " + shown(binary.right()) + ")";
            case Expression.IsNull is -> "(" + shown(is.operand()) + " is " + not(is.negated()) + "null)";
            case Expression.IsDistinct is ->
                "(" + shown(is.left()) + " is " + not(is.negated()) + "distinct from " + shown(is.right()) + ")";
            case Expression.In in -> "(" + shown(in.operand()) + " " + not(in.negated()) + "in " + all(in.list()) + ")";
            case Expression.Between between ->
                "(" + shown(between.operand()) + " " + not(between.negated()) + "between " + shown(between.low())
                        + " and " + shown(between.high()) + ")";
            case Expression.Like like ->
                "(" + shown(like.operand()) + " " + not(like.negated()) + "like " + shown(like.pattern())
                        + (like.escape() == null ? "" : " escape " + shown(like.escape())) + ")";
            case Expression.Case choice ->
                "(case " + (choice.operand() == null ? "" : shown(choice.operand()) + " ")
                        + choice.whens().stream()
                                .map(when -> "when " + shown(when.condition()) + " then " + shown(when.result()))
                                .collect(Collectors.joining(" "))
                        + (choice.otherwise() == null ? "" : " else " + shown(choice.otherwise())) + ")";
            case Expression.Cast cast ->
                "(" + shown(cast.operand()) + " as " + cast.kind().word() + " " + cast.precision() + "," + cast.scale()
                        + ")";
            case Expression.IsTruth is ->
                "(" + shown(is.operand()) + " is " + not(is.negated()) + (is.value() == null ? "unknown" : is.value())
                        + ")";
            case Expression.Call call -> call.name() + "(" + all(call.arguments()) + ")";
            case Expression.Extract extract -> "extract(" + shown(extract.operand()) + ")";
            case Expression.Stretch ignored -> "interval";
            case Expression.Broken ignored -> "?";
        };
    }

    private static String not(boolean negated) {
        return negated ? "not " : "";
    }

    private static String all(List<Expression> list) {
        return list.stream().map(ParserTest::shown).collect(Collectors.joining(", "));
    }

    @Test
    void everyNodeKnowsItsSpan() {
        Expression.Binary or = (Expression.Binary) parse("beds > 3 or  name is null");
        assertThat(or.span().start()).isZero();
        assertThat(or.span().end()).isEqualTo(25);
        assertThat(or.operatorSpan().start()).isEqualTo(9);
        assertThat(or.right().span().start()).isEqualTo(13);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            quoteCharacter = '`',
            value = {
                "a +§1§4",
                "(a§1§3",
                "a b§1§3",
                "a = b = c§1§7",
                "case when a then b§1§19",
                "case else a end§1§6",
                "a is 3§1§6",
                "cast(a as number)§1§11",
                "a in ()§1§7",
                "upper(a,)§1§9",
            })
    void aFaultIsSaidOnceAtTheFirstPlaceThatDoesNotFit(String text, int line, int column) {
        parse(text);
        assertThat(problems).hasSize(1);
        assertThat(((Place.InText) problems.getFirst().place()).position()).isEqualTo(new Position(line, column));
    }

    /** What stays of the tree around faults, and the columns of all of them. */
    @ParameterizedTest
    @CsvSource(
            delimiter = '§',
            quoteCharacter = '`',
            value = {
                "upper(a +) || lower(b§(upper(?) || lower(b))§10 22",
                "f(a b, c d) and (e§(f(a) and e)§5 19",
                "f(+, -, a)§f(?, ?, a)§4 7",
                "case when a + then b else c - end || d§((case when ? then b else ?) || d)§15 31",
                "case a when 1 end || d *§?§15 25",
                "cast(a decimal) || cast(b as 1)§(? || ?)§8 30",
                "extract(hours from a) = c§(? = c)§9",
                "a in (b, ) or c§((a in b, ?) or c)§10",
                "(case when a then b) || c§((case when a then b) || c)§20",
                "f(case when a b end, c)§f(?, c)§15",
                "f(a ? b) = c§(f(a) = c)§5",
                "(a b§a§4",
                "((a b) c) d§a§5 8 11",
            })
    void whatStandsAroundAFaultIsReadAllTheSame(String text, String tree, String columns) {
        assertThat(shown(parse(text))).isEqualTo(tree);
        assertThat(problems.stream()
                        .map(problem -> String.valueOf(
                                ((Place.InText) problem.place()).position().column()))
                        .collect(Collectors.joining(" ")))
                .isEqualTo(columns);
    }

    @Test
    void aTextOfFaultsIsNotReadToItsEnd() {
        assertThatThrownBy(() -> parse("f(" + "+,".repeat(Findings.MOST_FAULTS + 1) + ")"))
                .isInstanceOf(Findings.Stop.class);
        assertThat(problems).hasSize(Findings.MOST_FAULTS);
    }
}
