"""Writes the section about loads under other conditions. Usage: report_conditions.py RESULTS ROWS ROUNDS TAKEN"""
import datetime
import json
import statistics
import sys

import machine

results, rows, rounds = sys.argv[1], int(sys.argv[2]), int(sys.argv[3])
CONDITIONS = {
    "plain": "as above",
    "shuffled": "rows in no order",
    "two_fields": "a key of two fields",
    "many": f"{rows * 4:,} rows, once",
    "small_heap": "a heap of 256 MB",
    "one_core": "one core for all",
}
LOADS = ["first load", "the same file again"]
theirs, ours, peaks, ten = {}, {}, {}, []
for line in open(results, encoding="utf-8"):
    condition, *times, peak = line.rstrip("\n").split("\t")
    if condition == "ten":
        run = json.loads(peak)
        started, ended = (datetime.datetime.fromisoformat(run[at]) for at in ("createdAt", "endedAt"))
        ten.append((ended - started).total_seconds())
        continue
    for load in range(2):
        if times[load]:
            theirs.setdefault((condition, load), []).append(float(times[load]))
        ours.setdefault((condition, load), []).append(float(times[load + 2]))
    peaks[condition] = max(peaks.get(condition, 0), int(peak))


def ratio(key):
    return f"{statistics.median(o / t for o, t in zip(ours[key], theirs[key])):.2f}" if key in theirs else ""


def seconds(times):
    return f"{statistics.median(times):.1f} s" if times else ""


measured = "one pair" if rounds == 1 else f"medians of {rounds} pairs"
print("## Other conditions\n")
print(f"`bench/conditions {rows} {rounds}`: a load of {rows:,} stays into an empty table, and the same once more, by script and product; a heap of 320 MB "
      f"and two cores where nothing else is said; {measured}, on a service that has done both once. Resident memory is the peak of both loads.\n")
print("| condition | load | script | product | ratio | resident memory |")
print("|---|---|---|---|---|---|")
for condition, words in CONDITIONS.items():
    for load, what in enumerate(LOADS):
        key = (condition, load)
        print(f"| {words} | {what} | {seconds(theirs.get(key))} | {seconds(ours[key])} | {ratio(key)} | {peaks[condition] / 1024:.0f} MB |")
growth = [statistics.median(ours["many", load]) / statistics.median(ours["plain", load]) for load in range(2)]
print(f"\nFour times the rows take {growth[0]:.2f} times as long when they are new and {growth[1]:.2f} times when they are there (goal: 4.2). "
      "The script needs one unique field, so a key of two is measured alone.\n")
print("One thread reads and maps, two compare and write, each with a process of the database behind it, and the first look has two threads: a machine with five "
      "cores is used without a setting, and on one core the same threads take turns.\n")
print(f"A run of ten rows has ended {statistics.median(ten):.2f} s after it was made (median of {len(ten)}; goal: 0.3 s).\n")
print(machine.taken(sys.argv[4]))
