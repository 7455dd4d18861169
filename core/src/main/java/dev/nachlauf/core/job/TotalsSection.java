package dev.nachlauf.core.job;

import dev.nachlauf.core.document.Section;
import dev.nachlauf.core.formula.FormulaSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** {@code totals:} of a job. */
final class TotalsSection {
    private final Words words;

    TotalsSection(Words words) {
        this.words = words;
    }

    ControlTotals read(Section section) {
        List<ControlTotals.Sum> sums = section.section("sums").map(this::sums).orElse(List.of());
        boolean records = Words.flag(section, "records");
        boolean fails = Words.oneOf(section, "differ", "hold", "fail").equals("fail");
        section.done();
        return new ControlTotals(sums, records, fails);
    }

    private List<ControlTotals.Sum> sums(Section section) {
        List<ControlTotals.Sum> sums = new ArrayList<>();
        for (String name : section.keys()) {
            words.requireName(section, name);
            FormulaSource field = section.formulaOfKey(name);
            section.section(name)
                    .map(sum -> sum(new Placed<>(name, section.placeOf(name)), field, sum))
                    .ifPresent(sums::add);
        }
        section.done();
        return sums;
    }

    /** @param field what is added up unless the sum says of what */
    private static ControlTotals.Sum sum(Placed<String> name, FormulaSource field, Section section) {
        FormulaSource of = section.formula("of").orElse(field);
        Optional<Placed<String>> target =
                section.text("target").map(mapped -> new Placed<>(mapped, section.placeOfValue("target")));
        ControlTotals.Sum sum = new ControlTotals.Sum(name, of, section.formula("expect"), target);
        section.done();
        return sum;
    }
}
