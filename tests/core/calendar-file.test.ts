import ICAL from "ical.js";
import { execFileSync } from "node:child_process";
import { readDays } from "@/core/calendar/ics-read";
import { LARGEST_CALENDAR } from "@/core/calendar/largest-calendar";
import { eachDayOf } from "@/core/calendar/named-days";
import { calendarFile, type CalendarEntry } from "@/core/calendar/ics-write";

const WINDOW = { from: "2026-01-01", to: "2027-12-31" };

const event = (...lines: string[]) => ["BEGIN:VEVENT", "UID:1", ...lines, "END:VEVENT"];
const calendar = (...events: string[][]) =>
  ["BEGIN:VCALENDAR", "VERSION:2.0", ...events.flat(), "END:VCALENDAR", ""].join("\r\n");
const found = (text: string, window = WINDOW) =>
  readDays(text, window).days.map(({ from, to }) => (from === to ? from : `${from}/${to}`));

describe("days out of a calendar file", () => {
  test("the day of the end does not belong to it", () => {
    const text = calendar(
      event("DTSTART;VALUE=DATE:20261224", "DTEND;VALUE=DATE:20261227", "SUMMARY:Winter stop"),
    );
    expect(readDays(text, WINDOW)).toEqual({
      days: [{ from: "2026-12-24", to: "2026-12-26", name: "Winter stop" }],
      left: [],
    });
  });

  test("one without an end is one day; one of a duration as many as it says", () => {
    expect(found(calendar(event("DTSTART;VALUE=DATE:20260501")))).toEqual(["2026-05-01"]);
    expect(found(calendar(event("DTSTART;VALUE=DATE:20260501", "DURATION:P3D")))).toEqual([
      "2026-05-01/2026-05-03",
    ]);
  });

  test("whole days from midnight to midnight count, hours are left out and said", () => {
    const text = calendar(
      event("DTSTART:20260501T000000", "DTEND:20260502T000000"),
      event("DTSTART:20260504T090000", "DTEND:20260504T120000"),
      event("DTSTART;VALUE=DATE:20260506", "DTEND;VALUE=DATE:20260504"),
      event("DTSTART;VALUE=DATE:20260507", "STATUS:CANCELLED"),
      event("SUMMARY:No day"),
    );
    expect(found(text)).toEqual(["2026-05-01"]);
    expect(readDays(text, WINDOW).left).toEqual([
      "1 event left out: it lasts hours, not days.",
      "1 event left out: it ends before it begins.",
      "1 event left out: it was cancelled.",
      "1 event left out: no day on which it begins.",
    ]);
  });

  test("a rule without an end is followed through the stretch, and no further", () => {
    const text = calendar(event("DTSTART;VALUE=DATE:19800101", "RRULE:FREQ=YEARLY"));
    expect(found(text)).toEqual(["2026-01-01", "2027-01-01"]);
  });

  test("days taken out of a rule are not there, and one that was moved is where it went", () => {
    const text = calendar(
      event(
        "DTSTART;VALUE=DATE:20260105",
        "RRULE:FREQ=WEEKLY;COUNT=4",
        "EXDATE;VALUE=DATE:20260112",
      ),
      event("RECURRENCE-ID;VALUE=DATE:20260119", "DTSTART;VALUE=DATE:20260120"),
    );
    expect(found(text)).toEqual(["2026-01-05", "2026-01-20", "2026-01-26"]);
  });

  test.each([
    "FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30",
    "FREQ=DAILY;INTERVAL=99999999999",
    "FREQ=DAILY;INTERVAL=7;BYDAY=TU",
    "FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30",
    "FREQ=MONTHLY;BYDAY=MO;BYSETPOS=6",
  ])("%s, that never comes again, is there once", (rule) => {
    const text = calendar(event("DTSTART;VALUE=DATE:20260105", `RRULE:${rule}`));
    expect(found(text)).toEqual(["2026-01-05"]);
  });

  test("a rule of hours or of weeks of the year is not followed, and that is said", () => {
    for (const rule of ["FREQ=HOURLY", "FREQ=YEARLY;BYWEEKNO=20", "FREQ=SECONDLY;COUNT=9"]) {
      const text = calendar(event("DTSTART;VALUE=DATE:20260105", `RRULE:${rule}`));
      expect(found(text)).toEqual(["2026-01-05"]);
      expect(readDays(text, WINDOW).left[0]).toContain("not understood");
    }
  });

  test("what begins before the stretch and reaches into it is there", () => {
    const text = calendar(event("DTSTART;VALUE=DATE:20251230", "DTEND;VALUE=DATE:20260103"));
    expect(found(text)).toEqual(["2025-12-30/2026-01-02"]);
    expect(found(text, { from: "2026-01-03", to: "2026-02-01" })).toEqual([]);
  });

  test("what is no calendar, too large, or broken is a sentence", () => {
    expect(() => readDays("a,b\n1,2", WINDOW)).toThrow("no calendar file");
    expect(() => readDays(" ".repeat(LARGEST_CALENDAR + 1), WINDOW)).toThrow("larger than 1 MB");
    expect(() => readDays("BEGIN:VCALENDAR\r\nnonsense\r\n", WINDOW)).toThrow("cannot be read");
    const bad = calendar(event("DTSTART;VALUE=DATE:20260105", "RRULE:FREQ=DAILY;BYMONTHDAY=99"));
    expect(() => readDays(bad, WINDOW)).toThrow("cannot be read");
  });

  test("stretches as single days, each once", () => {
    expect(
      eachDayOf([
        { from: "2026-12-24", to: "2026-12-25", name: "Winter" },
        { from: "2026-12-25", to: "2026-12-25", name: "Sea day" },
      ]),
    ).toEqual([
      { date: "2026-12-24", name: "Winter" },
      { date: "2026-12-25", name: "Winter" },
    ]);
  });
});

describe("a calendar file", () => {
  const ENTRIES: CalendarEntry[] = [
    {
      id: "sprint-1@zigzag",
      from: "2026-11-30",
      to: "2026-12-13",
      title: "Sprint 4; gates, salt & fog \\ tide",
      words: "Gates that survive salt,\nand fog ".repeat(8).trim(),
      page: "http://localhost/p/GATE/plan/sprints?sprint=1",
    },
    {
      id: "release-1@zigzag",
      from: "2026-12-14",
      to: "2026-12-14",
      title: "Crossing 21 – Überfahrt ⛴",
      words: "",
      page: "http://localhost/p/GATE/plan/releases",
    },
  ];
  const text = calendarFile({ name: "Quay gates", entries: ENTRIES, stampedAt: 1_795_000_000_000 });

  test("is read back by another package as it was written", () => {
    const read = new ICAL.Component(ICAL.parse(text)).getAllSubcomponents("vevent");
    expect(read.map((one) => new ICAL.Event(one))).toHaveLength(2);
    const [sprint, release] = read.map((one) => new ICAL.Event(one));
    expect(sprint.summary).toBe(ENTRIES[0].title);
    expect(sprint.description).toBe(ENTRIES[0].words);
    expect(sprint.uid).toBe("sprint-1@zigzag");
    expect([sprint.startDate, sprint.endDate].map(String)).toEqual(["2026-11-30", "2026-12-14"]);
    expect([release.startDate, release.endDate].map(String)).toEqual(["2026-12-14", "2026-12-15"]);
    expect(release.summary).toBe(ENTRIES[1].title);
  });

  test("is read back by Python's icalendar, with no line too long", () => {
    expect(text.split("\r\n").filter((line) => Buffer.byteLength(line) > 75)).toEqual([]);
    const script = `
import sys, json
from icalendar import Calendar
cal = Calendar.from_ical(sys.stdin.buffer.read())
print(json.dumps([[str(e["uid"]), str(e["summary"]), e["dtstart"].dt.isoformat(),
  e["dtend"].dt.isoformat(), str(e["transp"]), str(e["url"])] for e in cal.walk("vevent")]))`;
    const read = JSON.parse(
      execFileSync("/usr/bin/python3", ["-c", script], { input: text, encoding: "utf8" }),
    ) as string[][];
    expect(read).toEqual(
      ENTRIES.map(({ id, title, from, page }, i) => [
        id,
        title,
        from,
        ["2026-12-14", "2026-12-15"][i],
        "TRANSPARENT",
        page,
      ]),
    );
  });

  test("and our own reader finds the same days in it", () => {
    expect(readDays(text, WINDOW).days.map(({ from, to }) => [from, to])).toEqual(
      ENTRIES.map(({ from, to }) => [from, to]),
    );
  });
});
