"""Writes the section about reading into the page of measurements: results file, page, version of the JDK."""
import datetime
import os
import statistics
import sys

MARK = "\n## Reading\n"
GOALS = {"delimited": 0.60, "workbook": 0.70}
NAMES = {
    "delimited": "delimited text, 12 fields, read and typed (fastcsv)",
    "workbook": "workbook, 12 columns, read and typed (fastexcel-reader)",
}


def main():
    results, page, jdk = sys.argv[1:]
    pairs = {}
    for line in open(results, encoding="utf-8"):
        what, rows, bare, ours = line.rstrip("\n").split("\t")
        pairs.setdefault(what, []).append((int(rows), float(bare), float(ours)))
    lines = [
        MARK,
        f"Measured by `bench/read` on {datetime.date.today()}: rows per second on one thread, in turns with the bare library over",
        "the same file, medians. Ours gives every row with its place and every value in its kind; the library gives the cells.",
        "",
        "| what | rows | library | ours | share (median of pairs) | lowest – highest | goal | met |",
        "|---|---|---|---|---|---|---|---|",
    ]
    for what, runs in pairs.items():
        shares = sorted(bare / ours for _, bare, ours in runs)
        share = statistics.median(shares)
        rows = runs[0][0]
        bare = rows / statistics.median(run[1] for run in runs)
        ours = rows / statistics.median(run[2] for run in runs)
        lines.append(
            f"| {NAMES[what]} | {rows:,} | {bare:,.0f} rows/s | {ours:,.0f} rows/s | {share:.0%} "
            f"| {shares[0]:.0%} – {shares[-1]:.0%} | ≥ {GOALS[what]:.0%} | {'yes' if share >= GOALS[what] else 'no'} |"
        )
    lines += ["", f"The heap was limited to 256 MB. Machine: {os.cpu_count()} cores. {jdk.strip()}.", ""]
    text = open(page, encoding="utf-8").read()
    before = text.split(MARK)[0].rstrip("\n") + "\n"
    open(page, "w", encoding="utf-8").write(before + "\n".join(lines))


main()
