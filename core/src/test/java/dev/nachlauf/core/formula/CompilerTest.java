package dev.nachlauf.core.formula;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.nachlauf.core.formula.Checked.Branch;
import dev.nachlauf.core.formula.Checked.Constant;
import dev.nachlauf.core.formula.Checked.Slot;
import dev.nachlauf.core.value.Kind;
import dev.nachlauf.core.value.ValueProblem;
import java.math.BigDecimal;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Closures of trees that are made by hand: what is computed, in which order, and where it ends early. */
class CompilerTest {
    private static final Checked FAILS =
            new Checked.Arithmetic(Expression.Operator.DIVIDE, Kind.INTEGER, value(1L), value(0L));

    private static Checked value(Object value) {
        return new Constant(value);
    }

    private static Object evaluate(Checked tree, Object... row) {
        return Compiler.compile(tree).evaluate(row);
    }

    @Test
    void andAndOrFollowThreeValuedLogic() {
        Boolean[] truths = {true, false, null};
        for (Boolean a : truths) {
            for (Boolean b : truths) {
                Boolean and = Boolean.FALSE.equals(a) || Boolean.FALSE.equals(b)
                        ? Boolean.FALSE
                        : a == null || b == null ? null : Boolean.TRUE;
                Boolean or = Boolean.TRUE.equals(a) || Boolean.TRUE.equals(b)
                        ? Boolean.TRUE
                        : a == null || b == null ? null : Boolean.FALSE;
                assertThat(evaluate(new Checked.And(value(a), value(b))))
                        .as("%s and %s", a, b)
                        .isEqualTo(and);
                assertThat(evaluate(new Checked.Or(value(a), value(b))))
                        .as("%s or %s", a, b)
                        .isEqualTo(or);
            }
        }
    }

    @Test
    void whatIsDecidedIsNotComputedFurther() {
        assertThat(evaluate(new Checked.And(value(false), FAILS))).isEqualTo(false);
        assertThat(evaluate(new Checked.Or(value(true), FAILS))).isEqualTo(true);
        assertThat(evaluate(new Checked.FirstFilled(List.of(value(3L), FAILS)))).isEqualTo(3L);
        assertThat(evaluate(new Checked.Choose(List.of(new Branch(value(true), value("x"))), FAILS)))
                .isEqualTo("x");
        assertThat(evaluate(new Checked.In(value(1L), List.of(value(1L), FAILS))))
                .isEqualTo(true);
        assertThat(evaluate(new Checked.Between(value(1L), value(2L), FAILS))).isEqualTo(false);
    }

    @Test
    void everythingElseComputesAllItsOperands() {
        assertThatThrownBy(() -> evaluate(new Checked.Concat(value(null), FAILS)))
                .isInstanceOf(ValueProblem.class);
        assertThatThrownBy(() -> evaluate(new Checked.Compare(Expression.Operator.EQUAL, value(null), FAILS)))
                .isInstanceOf(ValueProblem.class);
        assertThatThrownBy(() -> evaluate(new Checked.NullIf(value(null), FAILS)))
                .isInstanceOf(ValueProblem.class);
    }

    @Test
    void chainsOfTextAreJoinedWhateverTheirLength() {
        Checked chain = new Slot(0);
        StringBuilder expected = new StringBuilder("a");
        for (int length = 2; length <= 9; length++) {
            chain = new Checked.Concat(chain, new Slot(1));
            expected.append("b");
            assertThat(evaluate(chain, "a", "b")).as("%d parts", length).isEqualTo(expected.toString());
            assertThat(evaluate(chain, "a", null))
                    .as("%d parts, one null", length)
                    .isNull();
            assertThat(evaluate(chain, null, "b"))
                    .as("%d parts, the first null", length)
                    .isNull();
        }
        assertThat(evaluate(new Checked.Concat(new Slot(0), new Slot(1)), new BigDecimal("1.50"), "x"))
                .isEqualTo("1.50x");
    }

    @Test
    void aTextThatWouldBeTooLongIsRefusedBeforeItIsMade() {
        String half = "x".repeat(600_000);
        Checked three = new Checked.Concat(new Checked.Concat(new Slot(0), value("")), new Slot(0));
        assertThatThrownBy(() -> evaluate(three, half)).isInstanceOf(ValueProblem.class);
        assertThatThrownBy(() -> evaluate(new Checked.Concat(new Slot(0), new Slot(0)), half))
                .isInstanceOf(ValueProblem.class);
    }

    @Test
    void aSlotWithoutAValueIsNeverTakenForNull() {
        Object[] row = {BrokenInput.VALUE};
        assertThatThrownBy(() -> evaluate(new Slot(0), row)).isInstanceOf(BrokenInput.class);
        assertThatThrownBy(() -> evaluate(new Checked.IsNull(new Slot(0)), row)).isInstanceOf(BrokenInput.class);
        assertThatThrownBy(() -> evaluate(new Checked.FirstFilled(List.of(new Slot(0), value(1L))), row))
                .isInstanceOf(BrokenInput.class);
    }

    @Test
    void equalityWithATextOfTheFormulaIsTheSameAsWithOneOfTheRow() {
        for (Object found : new Object[] {"closed", "open", null}) {
            for (Expression.Operator operator : List.of(Expression.Operator.EQUAL, Expression.Operator.NOT_EQUAL)) {
                assertThat(evaluate(new Checked.Compare(operator, new Slot(0), value("closed")), found))
                        .isEqualTo(evaluate(new Checked.Compare(operator, new Slot(0), new Slot(1)), found, "closed"));
            }
        }
    }
}
