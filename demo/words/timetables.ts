import type { TitleStock } from "./stock";

export const TIMETABLES: TitleStock = {
  written: {
    story: [
      "Storm timetable switches on for one route only",
      "Departure boards say why a boat is late",
      "Feed warns before a column is missing",
      "Tide table decides which pier the boat uses",
      "Plan a diversion and see who is affected first",
      "Winter timetable checked against crew hours",
      "Connections to the island bus in the feed",
      "Boards count down in minutes under ten",
      "Two versions of a timetable side by side",
      "Announce a cancelled sailing in one step",
      "Show expected arrival instead of delay",
    ],
    bug: [
      "Feed breaks at 5 a.m. when the tide file is late",
      "Departure board shows two boats at one pier",
      "Sunday timetable used on the bank holiday",
      "Delay of the night boat counted on the next day",
      "Diversion stays after the storm is over",
      "Island bus connection missing after the clock change",
      "Boards go blank while the feed reloads",
      "Sailings at 00:00 appear a day early",
      "Same sailing published twice after a correction",
    ],
    request: [
      "Printed timetable for the harbour festival",
      "Extra boats for the regatta weekend",
      "Delay figures by route for the harbour office",
      "Plain names for the piers on all boards",
    ],
  },
  things: ["Timetable feed", "Departure board", "Tide table", "Delay message", "Diversion plan", "Sailing plan", "Holiday calendar", "Connection list", "Crew roster import", "Arrival estimate", "Route map", "Storm plan", "Archive of sailings", "Pier assignment"],
  faults: ["is an hour off", "misses a sailing", "repeats the last sailing", "is not updated", "shows an empty line", "uses the old pier", "sorts the sailings wrongly", "keeps yesterday's delay", "fails on the first try", "drops the island stop", "cannot be published", "mixes up two routes"],
  when: ["after the clock change", "on bank holidays", "at 5 a.m.", "during spring tide", "when the feed is late", "for the night boat", "in the storm plan", "after a correction", "at the turn of the month", "for sailings after midnight", "when a pier is closed"],
  wishes: ["Preview the next timetable", "Publish a correction", "Compare two plans", "Swap two boats", "See the tide beside the sailing", "Warn of a short connection", "Hold a boat for the bus", "Mark school days", "Plan an extra boat", "Undo a diversion"],
  forWhom: ["for one route", "for the whole summer", "from the tablet", "for the harbour office", "for the island bus", "before it is published", "on the boards", "for the night boat", "in the feed", "for the storm plan"],
  asks: ["List of changed sailings", "Check of the holiday dates", "New pier name", "Copy of last winter's plan", "Figures of late sailings", "Note for the printers", "Contact at the bus company", "Colours of the board"],
};
