"""
Makes iso-weeks.json: the ISO 8601 week of each day around the turn of the years 1990 to 2050, by Python's date.isocalendar.

  python3 tests/reference/iso-weeks.py > tests/reference/iso-weeks.json
"""
import json
from datetime import date, timedelta

weeks = {}
for year in range(1990, 2051):
    for ahead in range(-10, 11):
        day = date(year, 1, 1) + timedelta(days=ahead)
        weeks[day.isoformat()] = day.isocalendar().week
print(json.dumps(weeks))
