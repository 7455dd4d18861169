package dev.nachlauf.core.step;

import dev.nachlauf.core.formula.BrokenInput;
import dev.nachlauf.core.formula.Evaluator;
import dev.nachlauf.core.plan.Plan;
import dev.nachlauf.core.plan.Plan.Input;
import dev.nachlauf.core.problem.Problem;
import dev.nachlauf.core.record.RowText;
import dev.nachlauf.core.record.SourceRow;
import dev.nachlauf.core.system.SourceFormat.SourceReader;
import dev.nachlauf.core.value.Reading;
import dev.nachlauf.core.value.ValueProblem;
import dev.nachlauf.core.value.Values;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Source rows into slots: the cells that some formula needs are read as their kinds. */
final class ReadFlow implements RowFlow {
    private final Plan plan;
    private final BitSet passed;
    private final Input[] inputs;
    private final Evaluator[] totals;
    private final SourceReader reader;
    private final Runnable pulse;
    private long read;

    /**
     * Reads.
     *
     * @param passed slots whose texts may stay bytes
     * @param pulse is run for every row, and may end the reading by an exception
     */
    ReadFlow(Plan plan, BitSet passed, SourceReader reader, Runnable pulse) {
        this.plan = plan;
        this.passed = passed;
        this.inputs = plan.inputs().toArray(Input[]::new);
        this.totals =
                plan.totals().stream().map(total -> total.of().evaluator()).toArray(Evaluator[]::new);
        this.reader = reader;
        this.pulse = pulse;
    }

    @Override
    public @Nullable FlowRow next() {
        pulse.run();
        SourceRow row = reader.next();
        if (row == null) {
            return null;
        }
        read++;
        if (totals.length == 0) {
            return filled(FlowRow.of(row, new Object[plan.slots()]));
        }
        List<Amount> amounts = new ArrayList<>(totals.length);
        FlowRow flowing = filled(FlowRow.of(row, new Object[plan.slots()], amounts));
        for (Evaluator total : totals) {
            amounts.add(row.problems().isEmpty() ? amount(total, flowing.slots()) : Amount.UNREAD);
        }
        return flowing;
    }

    private FlowRow filled(FlowRow flowing) {
        SourceRow row = flowing.source();
        if (row.problems().isEmpty()) {
            fill(flowing, row);
        } else {
            row.problems().forEach(problem -> flowing.reject(FlowRow.NOBODY, problem));
        }
        return flowing;
    }

    private static Amount amount(Evaluator total, @Nullable Object[] slots) {
        try {
            return switch (total.evaluate(slots)) {
                case BigDecimal value -> new Amount(value, 0);
                case Long value -> new Amount(BigDecimal.valueOf(value), 0);
                case null, default -> Amount.NONE;
            };
        } catch (BrokenInput | ValueProblem e) {
            return Amount.UNREAD;
        }
    }

    private void fill(FlowRow flowing, SourceRow row) {
        @Nullable Object[] slots = flowing.slots();
        int fact = plan.facts();
        slots[fact] = row.origin().file();
        slots[fact + 1] = row.origin().sheet().isEmpty() ? null : row.origin().sheet();
        slots[fact + 2] = plan.needsFacts() ? row.origin().line() : null;
        RowText text = row.text();
        for (Input input : inputs) {
            if (text != null && passed.get(input.slot())) {
                slots[input.slot()] = text.cell(input.column());
                continue;
            }
            Object cell = row.cell(input.column());
            try {
                slots[input.slot()] = Reading.readOrEmpty(cell, input.kind(), input.parser());
            } catch (ValueProblem problem) {
                flowing.reject(FlowRow.NOBODY, broken(problem, input, cell).withCell(at(row, input)));
                slots[input.slot()] = BrokenInput.VALUE;
            }
        }
    }

    private static Problem broken(ValueProblem problem, Input input, @Nullable Object cell) {
        String shown = Values.shortened(String.valueOf(Values.text(cell)));
        return Problem.inField(problem.code(), input.name(), shown, problem.sentence(), "");
    }

    private String at(SourceRow row, Input input) {
        return row.origin().text(plan.columns().get(input.column()).field());
    }

    @Override
    public long read() {
        return read;
    }

    @Override
    public void close() {
        reader.close();
    }
}
