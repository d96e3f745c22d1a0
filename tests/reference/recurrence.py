"""Days on which whole days come again, by python3-dateutil (Debian): rules of RFC 5545 at random.

Run: python3 recurrence.py > recurrence.json
"""
import json
import random
from datetime import date, datetime, timedelta
from dateutil.rrule import rrulestr

random.seed(20261129)
WEEKDAYS = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"]


def some(values, most):
    return sorted(random.sample(values, random.randint(1, most)))


def rule():
    freq = random.choice(["DAILY", "WEEKLY", "MONTHLY", "YEARLY"])
    parts = [f"FREQ={freq}"]
    if random.random() < 0.4:
        parts.append(f"INTERVAL={random.randint(2, 5)}")
    if random.random() < 0.3:
        parts.append("BYMONTH=" + ",".join(map(str, some(range(1, 13), 3))))
    if freq in ("MONTHLY", "YEARLY") and random.random() < 0.35:
        days = [d for d in range(-31, 32) if d != 0]
        parts.append("BYMONTHDAY=" + ",".join(map(str, some(days, 3))))
    elif random.random() < 0.5:
        names = random.sample(WEEKDAYS, random.randint(1, 3))
        if freq in ("MONTHLY", "YEARLY") and random.random() < 0.6:
            names = [f"{random.choice([-2, -1, 1, 2, 3, 4])}{n}" for n in names]
        parts.append("BYDAY=" + ",".join(names))
        if random.random() < 0.25 and freq != "DAILY":
            parts.append("BYSETPOS=" + str(random.choice([-2, -1, 1, 2])))
    if random.random() < 0.3:
        parts.append(f"COUNT={random.randint(1, 40)}")
    elif random.random() < 0.3:
        until = date(2024, 1, 1) + timedelta(days=random.randint(100, 1500))
        parts.append(f"UNTIL={until:%Y%m%d}")
    return ";".join(parts)


rows = []
while len(rows) < 240:
    text = rule()
    start = date(2023, 1, 1) + timedelta(days=random.randint(0, 730))
    begins = datetime(start.year, start.month, start.day)
    found = rrulestr(text, dtstart=begins)
    # The first day always counts here: rules that do not fall on it are begun where they first do.
    first = next(iter(found.xafter(begins, count=1, inc=True)), None)
    if first is None:
        continue
    window = (datetime(2025, 7, 1), datetime(2026, 3, 31))
    days = [d.date().isoformat() for d in rrulestr(text, dtstart=first).between(*window, inc=True)]
    rows.append({"rule": text, "start": first.date().isoformat(), "days": days})

print(json.dumps(rows, indent=None, separators=(",", ":")))
