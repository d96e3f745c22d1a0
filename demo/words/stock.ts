/** The parts that titles are put together from when no hand-written one is left. */
export interface TitleStock {
  /** Hand-written, for the newest items; in the order in which they are used up. */
  written: { story: string[]; bug: string[]; request: string[] };
  things: string[];
  faults: string[];
  when: string[];
  wishes: string[];
  forWhom: string[];
  asks: string[];
}

export const PLACES = [
  "Gannet quay",
  "Heron island",
  "Saltmarsh town pier",
  "Curlew landing",
  "Sandpiper point",
  "the night boat",
  "the morning commuter boat",
  "Oyster bank stop",
  "the upper car deck",
  "the passenger saloon",
];

export const FINDINGS = [
  "It does not happen with a fresh installation.",
  "Three crews saw the same thing on the same day.",
  "It went away by itself after about ten minutes.",
  "The log shows the request going out twice.",
  "It only happens while the boat is between two masts.",
  "The crew has written down the sailing, so we can look it up.",
  "Somebody from the quay office watched it happen.",
  "A restart helps until the next tide change.",
];

export const WHY_STORIES = [
  "The quay office answers this question some twenty times a day.",
  "Passengers on the islands have asked for it since spring.",
  "The crews do this on paper today and type it in afterwards.",
  "It takes pressure off the ticket window before the first boat.",
  "Without it the evening figures are always a little wrong.",
  "The route managers want it before the summer timetable.",
  "It is the most frequent reason for a refund by hand.",
  "The harbour authority expects it with the next inspection.",
];

export const ACCEPTANCE = [
  "- It works without a connection and catches up later.\n- The text is readable in bright sun.\n- Nothing changes for passengers who do not use it.",
  "- One tap from the first screen.\n- The crew can undo it within a minute.\n- It is in the day's report.",
  "- It uses the same words as the printed timetable.\n- A screen reader says it in the right order.\n- It is off on the school boat.",
  "- The old way keeps working until the end of the month.\n- The quay office sees who did it.\n- Figures from before the change stay as they were.",
];

/** What somebody wants of a story after work on it has begun. */
export const WANTED = [
  "It also works for the school boat on Fridays.",
  "The quay office can switch it off without us.",
];

export const HOW_TO_TEST = [
  "Buy a ticket on the test route, close the app, open it again without a connection: the ticket is still there.",
  "Set the device clock to ten minutes before midnight, wait for the change of day and look at the list.",
  "Take the tablet from the test drawer, scan the three sample codes: two are let through, the torn one is refused with a reason.",
  "Replay last Tuesday's feed on the test server; the 06:10 sailing moves by twelve minutes and nothing else changes.",
  "Open the page on the smallest phone in the drawer and on the large departure board; no text is cut off.",
  "Sign in as the quay account, cancel the test sailing, and see that every ticket on it offers the next boat.",
  "Start the booking on the phone, finish it on the web: the price is the same on both.",
  "Switch the gate to its battery, count thirty scans, and compare the count after power is back.",
];

export const BUILD_COMMENTS = [
  "Found the place. The rounding happens twice, once on the device and once on the server.",
  "This needs a small change in the feed as well; I have talked to Timetables about it.",
  "I put it behind the switch for the test route first.",
  "There is an older helper for this that nobody uses. I removed it on the way.",
  "Works on my tablet. I would like somebody to try it with gloves on.",
  "The sample from the crew was enough to make it happen again, thank you.",
  "I kept the old wording; the new one did not fit on the small screen.",
  "Half done: the app side is finished, the quay side follows tomorrow.",
];

export const REVIEW_COMMENTS = [
  "Reads well. One question: what happens when the sailing is cancelled in between?",
  "I would move the tide table lookup out of the loop, otherwise fine.",
  "Please add the case of the first sailing on a Sunday to the tests.",
  "Looked at it together, no findings.",
  "Nice and small. Thank you for splitting it.",
];

export const SEND_BACK_REASONS = [
  "The name of the quay is still cut off on the smallest screen.",
  "Works for single tickets, but a group ticket is counted once.",
  "After a lost connection the old value comes back.",
  "The message names the wrong sailing when two leave at the same minute.",
  "The undo does not bring the seat back.",
  "On the battery the gate stays open a second too long.",
  "The figures of the day before changed as well, they must not.",
  "The screen reader skips the price.",
  "Tests pass, but the error text is the developer's, not the passenger's.",
];

export const CAME_BACK_REASONS = [
  "On the quay it is still there, with two phones out of ten.",
  "It works, but not with the tickets that were bought before.",
  "The night boat was not thought of.",
  "The crew asked for it back as it was, with the larger letters only.",
];

export const WITHDRAWN_REASONS = [
  "The quay office asked for it twice; the other one stays.",
  "The pier it was for is closed until next season.",
  "Nobody could say any more what it was for.",
];

export const BLOCKERS: { cause: string; waitingFor: string }[] = [
  { cause: "waits for timetable feed", waitingFor: "Timetables" },
  { cause: "needs the new test device", waitingFor: "the device supplier" },
  { cause: "price table not confirmed", waitingFor: "Arthur Quill" },
  { cause: "no access to the quay network", waitingFor: "Platform" },
  { cause: "certificate of the gate has run out", waitingFor: "Platform" },
  { cause: "harbour office has not answered", waitingFor: "the harbour office" },
  { cause: "wording is with the lawyer", waitingFor: "the lawyer" },
  { cause: "test boat is in dry dock", waitingFor: "the yard" },
];
