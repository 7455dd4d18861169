"""Asks a service, whose address and token are in the environment, and takes the time."""
import json
import os
import statistics
import time
import urllib.request


def asked(path, body=None, kind="application/json", prefer="wait=10"):
    """The time in milliseconds to the whole answer, and the answer."""
    request = urllib.request.Request(
        os.environ["ADDRESS"] + "/api/v1" + path,
        data=body,
        headers={"Authorization": "Bearer " + os.environ["TOKEN"], "Content-Type": kind, "Prefer": prefer})
    start = time.perf_counter()
    with urllib.request.urlopen(request) as answer:
        found = answer.read()
    return (time.perf_counter() - start) * 1000, json.loads(found)


def row(name, path, calls, goal):
    """A line of a table: median and slowest of so many calls after as many others, and whether the goal is met."""
    for _ in range(calls):
        asked(path)
    times = [asked(path)[0] for _ in range(calls)]
    median = statistics.median(times)
    return f"| {name} | {median:.1f} ms | {max(times):.1f} ms | {'yes' if median <= goal else 'no'} |"
