"""
Makes wall-clock.json: for each minute of a year in a zone, what Python's zoneinfo (PEP 615, IANA data of the machine) says.

  python3 tests/reference/wall-clock.py > tests/reference/wall-clock.json

Of each zone and year: for every minute of local time the minute of UTC that it stands for (fold=0: of a minute that there is
twice the first; of one that is skipped, counted on from before the change), and for every minute of UTC how far local time is
ahead. Both are kept as runs: [first minute, minutes ahead of UTC], the next run begins where it changes. Days are those of
the local calendar that some minute of UTC falls on.
"""
import json
import sys
from datetime import datetime, timedelta, timezone
from zoneinfo import ZoneInfo

CASES = [
    ("Europe/London", 2026),
    ("America/New_York", 2025),
    ("Australia/Lord_Howe", 2024),
    ("Pacific/Apia", 2011),
    ("Africa/Casablanca", 2019),
    ("America/Sao_Paulo", 2018),
    ("Asia/Kathmandu", 2025),
    ("UTC", 2026),
]


def runs(values):
    out = []
    for i, value in enumerate(values):
        if not out or out[-1][1] != value:
            out.append([i, value])
    return out


def minutes_of(year):
    start = datetime(year, 1, 1)
    count = int((datetime(year + 1, 1, 1) - start).total_seconds() // 60)
    return start, count


result = []
for name, year in CASES:
    zone = ZoneInfo(name)
    start, count = minutes_of(year)
    local, utc, days = [], [], set()
    for i in range(count):
        at = start + timedelta(minutes=i)
        local.append(int(at.replace(tzinfo=zone, fold=0).utcoffset().total_seconds() // 60))
        there = at.replace(tzinfo=timezone.utc).astimezone(zone)
        utc.append(int(there.utcoffset().total_seconds() // 60))
        if there.year == year:
            days.add(there.timetuple().tm_yday)
    missing = [d for d in range(2, count // 1440) if d not in days]
    result.append({"zone": name, "year": year, "local": runs(local), "utc": runs(utc), "daysLeftOut": missing})
json.dump(result, sys.stdout, indent=1)
sys.stdout.write("\n")
