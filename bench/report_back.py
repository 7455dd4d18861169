"""Writes the section about what comes before and after a load. Usage: report_back.py RESULTS ROWS INDEX_BYTES TAKEN"""
import statistics
import sys

import machine

results, rows, index = sys.argv[1], int(sys.argv[2]), int(sys.argv[3])
times = {}
for line in open(results, encoding="utf-8"):
    turn, what, seconds = line.split("\t")
    if turn != "0":
        times.setdefault(what, []).append(float(seconds))
medians = {what: statistics.median(found) for what, found in times.items()}

LINES = [
    ("dry", "a dry run of the first load", "first", "the load", 0.9),
    ("hold", "a held run until it waits", "first", "the load", None),
    ("release", "its release", "first", "the load", 1.0),
    ("verify", "comparing all of it with the table", "first", "the load", None),
    ("undo", "undo of the changed file", "changed", "the load of that file", 2.0),
]
print("## Before and after\n")
rounds = len(times["first"])
of = "one round" if rounds == 1 else f"medians of {rounds} rounds"
print(f"`bench/back {rows} {rounds}`: {rows:,} stays, 320 MB heap, {of} after a first one that warms the service up.\n")
print("| what | seconds | beside | ratio | goal |")
print("|---|---|---|---|---|")
for what, words, beside, beside_words, goal in LINES:
    ratio = medians[what] / medians[beside]
    print(f"| {words} | {medians[what]:.1f} | {beside_words}: {medians[beside]:.1f} | {ratio:.2f} | {goal or ''} |")
print(f"\nThe history of one stay, with the start of the client: {medians['history']:.1f} s. The index behind it takes "
      f"{index / 1e6:.1f} MB per million changed records, with everything that the database adds. The lines of a release are objects, "
      "where those of a load are bytes.\n")
print(machine.taken(sys.argv[4]))
