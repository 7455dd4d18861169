#!/usr/bin/env python3
"""Turns the results of bench/run into docs/performance.md: medians, ratios pair by pair, goals met or not."""
import datetime
import os
import statistics
import sys

import machine

GOALS = {"first": 0.70, "same": 0.60, "changed": 0.65}
NAMES = {"first": "first load into an empty table", "same": "the same file again", "changed": "10 % changed, 2 % new"}


def main():
    results, rows, memory, ledger, java, postgres, taken = sys.argv[1:8]
    pairs = [line.split("\t") for line in open(results).read().splitlines()]
    cold = [float(pair[3]) for pair in pairs if pair[1] == "cold"]
    pairs = [pair for pair in pairs if pair[1] != "cold"]
    count = len({pair[0] for pair in pairs})
    print(f"""# Performance

Measured by `bench/run {rows} {count}` on {datetime.date.today().isoformat()}: {rows} overnight stays of 12 fields, 1 % of them bad, into a table
with a unique key and a foreign key. Product and script take turns on fresh copies of the database; the times are wall
times of the whole command (`nachlauf run start stays --file … --follow` through the service, and `psql` with the script),
medians of {count} pairs after three loads that warm the service up. Only the ratios within one run count: machines differ, and shared ones drift.

The script (`bench/reference/expert_tuned.sql`) is the fastest that we could write by hand in half a day. It tells no outcome per
row, keeps no values from before, and does not notice a key that stands twice in the file. The product does all of that, in
a ledger, and keeps the file; its heap was limited to 320 MB, as usual.

| load | script | product | ratio (median of pairs) | lowest – highest | goal | met |
|---|---|---|---|---|---|---|""")
    for load, goal in GOALS.items():
        of_load = [(float(p[2]), float(p[3])) for p in pairs if p[1] == load]
        ratios = sorted(ours / theirs for theirs, ours in of_load)
        script = statistics.median(theirs for theirs, _ in of_load)
        product = statistics.median(ours for _, ours in of_load)
        ratio = statistics.median(ratios)
        met = "yes" if ratio <= goal else "no"
        print(f"| {NAMES[load]} | {script:.1f} s | {product:.1f} s | {ratio:.2f} | {ratios[0]:.2f} – {ratios[-1]:.2f} | ≤ {goal} | {met} |")
    warm = statistics.median(float(p[3]) for p in pairs if p[1] == "first")
    print(f"""
The first load of a service that has just started, with what an earlier one has left behind (where there was none, one that loaded 100,000 rows six times), takes {statistics.median(cold):.1f} s (median of {len(cold)} starts,
{min(cold):.1f} – {max(cold):.1f} s), {statistics.median(cold) / warm:.2f} times a warm one (goal: 1.3).
The service's resident memory peaked at {int(memory) // 1024} MB over all loads. The ledger took {int(ledger) / 1e6:.1f} MB per million rows
(goal: 15 MB). The number of stays in the table after each of our loads was the same as after the script's.

{machine.taken(taken)}
Machine: {os.cpu_count()} cores. {java.strip()}. {postgres}.
""", end="")


if __name__ == "__main__":
    main()
