"""Asks a service for its lists and writes what it took into the section Lists of docs/performance.md."""
import argparse
import datetime
import json
import os
import statistics
import time
import urllib.error
import urllib.request

HEAD = "## Lists"


LOOKS = 10


def asked(path, body=None, kind="application/json", prefer="wait=10"):
    request = urllib.request.Request(
        os.environ["ADDRESS"] + "/api/v1" + path,
        data=body,
        headers={"Authorization": "Bearer " + os.environ["TOKEN"], "Content-Type": kind, "Prefer": prefer})
    start = time.perf_counter()
    with urllib.request.urlopen(request) as answer:
        found = answer.read()
    return (time.perf_counter() - start) * 1000, json.loads(found)


def profiles():
    """Begins profiles of a file that is long enough to outlast the calls; gives their ids."""
    row = "G-{0};H-{1:03d};2026-07-{2:02d};{3};12,50\n"
    rows = "".join(row.format(n, n % 500, n % 28 + 1, n % 9) for n in range(1_000_000))
    text = ("guest;hut;day;beds;price\n" + rows).encode()
    _, kept = asked("/files?name=stays.csv", text, "application/octet-stream")
    body = json.dumps({"source": {"file": kept["hash"], "fileName": "stays.csv"}}).encode()
    return [asked("/sources/profile", body, prefer="respond-async")[1]["id"] for _ in range(LOOKS)]


def under_way():
    return sum(look["state"] in ("waiting", "looking") for look in asked("/looks")[1]["items"])


def section(args):
    lines = [
        HEAD,
        "",
        f"Measured by `bench/lists {args.runs} {args.chunks}` on {datetime.date.today()}: a database with {args.runs:,} runs of {args.jobs} jobs,",
        f"each with a ledger of {args.chunks:,} chunks. Time from the call to the whole answer over loopback, medians of {args.calls} calls",
        f"after {args.calls} others. The goal is 50 ms.",
        "",
        "| list | median | slowest | met |",
        "|---|---|---|---|",
    ]
    lists = [
        ("overview: all jobs, each with its last run", "/jobs"),
        ("50 runs, the newest", "/runs?limit=50"),
        ("50 runs, from the middle", f"/runs?limit=50&cursor={args.runs // 2}"),
        ("50 runs of one job", "/runs?limit=50&job=stays-7"),
        ("one run with its balance", f"/runs/{args.runs}"),
    ]
    for name, path in lists:
        for _ in range(args.calls):
            asked(path)
        times = [asked(path)[0] for _ in range(args.calls)]
        median = statistics.median(times)
        lines.append(f"| {name} | {median:.1f} ms | {max(times):.1f} ms | {'yes' if median <= 50 else 'no'} |")
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
    return "\n".join(lines) + "\n"


def main():
    parser = argparse.ArgumentParser(description=__doc__)
    for name in ("runs", "chunks", "calls", "jobs"):
        parser.add_argument("--" + name, type=int, required=True)
    parser.add_argument("--page", required=True)
    args = parser.parse_args()
    text = section(args)
    print(text)
    with open(args.page, encoding="utf-8") as page:
        before = page.read()
    start = before.find(HEAD)
    if start < 0:
        after = before.rstrip() + "\n\n" + text
    else:
        end = before.find("\n## ", start + 1)
        after = before[:start] + text + ("" if end < 0 else before[end:])
    with open(args.page, "w", encoding="utf-8") as page:
        page.write(after)


main()
