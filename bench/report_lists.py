"""Asks a service for its lists and tells what that took."""
import argparse
import datetime
import json
import os
import statistics
import urllib.error

from asking import asked, row

LOOKS = 10


def profiles():
    """Begins profiles of a file that is long enough to outlast the calls; gives their ids."""
    line = "G-{0};H-{1:03d};2026-07-{2:02d};{3};12,50\n"
    lines = "".join(line.format(n, n % 500, n % 28 + 1, n % 9) for n in range(1_000_000))
    text = ("guest;hut;day;beds;price\n" + lines).encode()
    _, kept = asked("/files?name=stays.csv", text, "application/octet-stream")
    body = json.dumps({"source": {"file": kept["hash"], "fileName": "stays.csv"}}).encode()
    return [asked("/sources/profile", body, prefer="respond-async")[1]["id"] for _ in range(LOOKS)]


def under_way():
    return sum(look["state"] in ("waiting", "looking") for look in asked("/looks")[1]["items"])


def section(args):
    lines = [
        "## Lists",
        "",
        f"Measured by `bench/lists {args.runs} {args.chunks}` on {datetime.date.today()}: a database with {args.runs:,} runs of {args.jobs} jobs,",
        f"each with a ledger of {args.chunks:,} chunks. Time from the call to the whole answer over loopback, medians of {args.calls} calls",
        f"after {args.calls} others. The goal is 50 ms.",
        "",
        "| list | median | slowest | met |",
        "|---|---|---|---|",
        row("overview: all jobs, each with its last run", "/jobs", args.calls, 50),
        row("50 runs, the newest", "/runs?limit=50", args.calls, 50),
        row("50 runs, from the middle", f"/runs?limit=50&cursor={args.runs // 2}", args.calls, 50),
        row("50 runs of one job", "/runs?limit=50&job=stays-7", args.calls, 50),
        row("one run with its balance", f"/runs/{args.runs}", args.calls, 50),
    ]
    looks = profiles()
    times = [asked("/runs?limit=50")[0] for _ in range(args.calls)]
    left = under_way()
    for look in looks:
        try:
            asked(f"/looks/{look}/stop", b"")
        except urllib.error.HTTPError:
            pass
    median = statistics.median(times)
    lines += [
        "",
        f"While {LOOKS} profiles of a file of a million rows are under way ({left} of them still were after the last call), the",
        f"50 newest runs take {median:.1f} ms (median; slowest {max(times):.1f} ms). The goal is 100 ms: {'met' if median <= 100 else 'not met'}.",
        f"Machine: {os.cpu_count()} cores.",
    ]
    return "\n".join(lines)


def main():
    parser = argparse.ArgumentParser(description=__doc__)
    for name in ("runs", "chunks", "calls", "jobs"):
        parser.add_argument("--" + name, type=int, required=True)
    print(section(parser.parse_args()))


main()
