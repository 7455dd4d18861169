"""What a report says about the machine that it was measured on."""
import statistics


def taken(path):
    """A sentence on how much of the processor time its host gave to others, and what was measured anew for that; from what quiet_seconds has noted."""
    times = [tuple(map(int, line.split("\t"))) for line in open(path, encoding="utf-8")]
    shares = [share for share, _ in times]
    repeated = sum(tries > 1 for _, tries in times)
    return (f"While these {len(times)} times were measured, the machine's host gave {statistics.median(shares):.0f} % of the wanted processor time to others (median; at most {max(shares)} %). "
            f"Measured anew, because that had been more than 10 %: {repeated or 'none'}.")
