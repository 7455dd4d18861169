"""Writes the section about shaped loads into the page of measurements. Arguments: results file, page, what was taken of the machine."""
import datetime
import os
import re
import statistics
import sys

import machine

lines = [line.rstrip("\n").split("\t") for line in open(sys.argv[1], encoding="utf-8")]
pairs = [(float(line[2]), float(line[3])) for line in lines if line[0] == "pair"]
growth = [(int(line[1]), int(line[2]) // 1024, float(line[3]), int(line[4])) for line in lines if line[0] == "grow"]
ratios = sorted(ours / script for script, ours in pairs)
table = "\n".join(f"| {rows:,} | {made:,} | {ours:.1f} s | {ours / rows * 1e6:.1f} s | {peak} MB |" for rows, peak, ours, made in growth)
section = f"""## Shaped loads

Measured by `bench/shaped` on {datetime.date.today()}: overnight stays summed per hut and day (`combine`, three figures), which must see the whole source; two passes over the file add them up. The
script (`bench/reference/days.sql`) stages the file and groups it in the database, without outcomes or before-images; product and script take turns, and both leave the same sums.

1,000,000 stays: script {statistics.median(script for script, _ in pairs):.1f} s, product {statistics.median(ours for _, ours in pairs):.1f} s; ratio {statistics.median(ratios):.2f} (median of {len(pairs)} pairs, {ratios[0]:.2f} – {ratios[-1]:.2f}).

| rows | records made | time | time per million rows | peak of resident memory |
|---|---|---|---|---|
{table}

The heap was limited to 320 MB, as usual. Machine: {os.cpu_count()} cores. {machine.taken(sys.argv[3])}
"""
document = open(sys.argv[2], encoding="utf-8").read()
pattern = re.compile(r"## Shaped loads\n.*?(?=\n## |\Z)", re.S)
document = pattern.sub(lambda _: section, document) if pattern.search(document) else document.rstrip() + "\n\n" + section
open(sys.argv[2], "w", encoding="utf-8").write(document)
