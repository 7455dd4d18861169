"""Writes what JMH measured of formulas into docs/performance.md. Arguments: a folder of JMH's JSON, one file a round; the document; the JDK."""
import datetime
import json
import pathlib
import re
import statistics
import sys

rounds = [
    {entry["benchmark"].rsplit(".", 1)[1]: entry for entry in json.loads(file.read_text())}
    for file in pathlib.Path(sys.argv[1]).glob("*.json")
]


def rates(name):
    return [results[name]["primaryMetric"]["score"] for results in rounds]


def allocated(name):
    return statistics.median(results[name]["secondaryMetrics"]["gc.alloc.rate.norm"]["score"] for results in rounds)


def share(name):
    pairs = [ours / theirs for ours, theirs in zip(rates("compiledFormulas"), rates(name))]
    return f"{statistics.median(pairs):.0%} | {min(pairs):.0%} – {max(pairs):.0%}", statistics.median(pairs)


def line(words, name, compared):
    return f"| {words} | {statistics.median(rates(name)) / 1e6:.2f} M | {allocated(name):.0f} | {compared} |"


composed, ratio = share("closuresComposedByHand")
bare, _ = share("lambdasByHand")
check = 1000 / statistics.median(rates("check"))
lines = [
    line("compiled formulas", "compiledFormulas", " | "),
    line("closures composed by hand, one per operation", "closuresComposedByHand", composed),
    line("one lambda a formula, which checks nothing", "lambdasByHand", bare),
]
section = f"""## Formulas

Eight formulas a row (upper and trim, date, decimal comma, case, two joins, coalesce, crosswalk, integer), compiled from their text, beside the same written by hand over the same rows; JMH,
one thread, {len(rounds)} rounds in which each had a process of its own, medians, {datetime.date.today()}, {sys.argv[3].strip()}. `bench/formulas` repeats it.

| | rows a second | bytes allocated per row | compiled formulas reach | lowest – highest |
|---|---|---|---|---|
{chr(10).join(lines)}

The goal is 70 % of closures composed by hand: {"met" if ratio >= 0.7 else "not met"}. Checking a job of 300 fields, from its text to its plan, takes {check:.1f} ms (goal: 50 ms, {"met" if check < 50 else "not met"}).
"""
document = open(sys.argv[2]).read()
pattern = re.compile(r"## Formulas\n.*?(?=\n## |\Z)", re.S)
document = pattern.sub(lambda _: section, document) if pattern.search(document) else document.rstrip() + "\n\n" + section
open(sys.argv[2], "w").write(document)
