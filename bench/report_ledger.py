"""Asks a service for a run with a long ledger, for pages of it, and for the history of a record; tells what that took."""
import argparse
import datetime
import os
import urllib.parse

from asking import asked, row

GOAL = 200


def history(key):
    """The path of a stay's history, once the index of the run is made: until then the answer is a look under way."""
    path = f"/connections/register/records/stay/history?key={urllib.parse.quote('stay_no=' + key)}"
    for _ in range(60):
        found = asked(path)[1]
        if "items" in found:
            if not found["items"]:
                raise SystemExit(f"The stay {key} has no history.")
            return path
    raise SystemExit("The index of the run is not made in ten minutes.")


def middle(run, outcome, pages):
    """The path of a page that so many others stand before."""
    path = f"/runs/{run}/ledger?limit=100" + (f"&outcome={outcome}" if outcome else "")
    cursor = ""
    for _ in range(pages):
        cursor = asked(path + cursor)[1].get("next") and "&cursor=" + urllib.parse.quote(asked(path + cursor)[1]["next"])
    return path + cursor


def main():
    parser = argparse.ArgumentParser(description=__doc__)
    for name in ("run", "rows", "calls"):
        parser.add_argument("--" + name, type=int, required=True)
    parser.add_argument("--key", required=True, help="the key of a stay in the middle of the file")
    args = parser.parse_args()
    ledger = f"/runs/{args.run}/ledger?limit=100"
    lists = [
        ("the run with its balance", f"/runs/{args.run}"),
        ("the first page of its ledger", ledger),
        ("a later page", middle(args.run, "", 20)),
        ("rejected rows", ledger + "&outcome=rejected"),
        ("a later page of rejected rows", middle(args.run, "rejected", 20)),
        ("updated rows, of which there are none", ledger + "&outcome=updated"),
        ("the first page of its rejects", f"/rejects?run={args.run}&limit=100"),
        ("the history of a stay", history(args.key)),
    ]
    print("\n".join([
        "## A long ledger",
        "",
        f"Measured by `bench/ledger {args.rows}` on {datetime.date.today()}: one run of {args.rows:,} rows. Time from the call to the whole answer",
        f"over loopback, pages of 100 lines, medians of {args.calls} calls after {args.calls} others. The goal is {GOAL} ms.",
        "",
        "| what | median | slowest | met |",
        "|---|---|---|---|",
        *[row(name, path, args.calls, GOAL) for name, path in lists],
        "",
        f"Machine: {os.cpu_count()} cores.",
    ]))


main()
