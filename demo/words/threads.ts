/** Who says something in a thread, and whom it names: by what they do about the item. */
export type ThreadRole = "assignee" | "reviewer" | "tester" | "lead";

export interface ThreadLine {
  by: ThreadRole;
  /** With `@assignee` and the like where somebody is named. */
  body: string;
  /** The line that it answers. */
  answers?: number;
  /** Whether those who are named are asked to answer. */
  asks?: true;
  /** Working hours before now. */
  before: number;
}

/** What people say to each other about work that is under way. */
export const THREADS: readonly (readonly ThreadLine[])[] = [
  [
    {
      by: "tester",
      body: "@assignee on the low tide pier the screen stays **white for three seconds**. Is that with the old cache, or new?",
      asks: true,
      before: 5,
    },
    {
      by: "assignee",
      body: "Old cache. It is gone once the app was opened a second time; I add a step to *how to test*.",
      answers: 0,
      before: 4,
    },
    { by: "tester", body: "Good, then I test it with a fresh install.", answers: 0, before: 3 },
  ],
  [
    {
      by: "reviewer",
      body: "@assignee two things before I pass it:\n\n- the fare of a child is rounded twice\n- the text for the night boat is missing\n\nThe rest reads well.",
      asks: true,
      before: 6,
    },
  ],
  [
    {
      by: "lead",
      body: "@assignee the harbour office asks when this is out. Does the end of the week hold?",
      asks: true,
      before: 7,
    },
    {
      by: "assignee",
      body: "Yes, if the test on the pier passes tomorrow. @tester can you take it first thing?",
      answers: 0,
      asks: true,
      before: 2,
    },
  ],
  [
    {
      by: "assignee",
      body: "I would leave the second half for later: it needs the new timetable format. @lead fine with you?",
      asks: true,
      before: 8,
    },
    {
      by: "lead",
      body: "Fine. Write it down as an item of its own, please.",
      answers: 0,
      before: 6,
    },
  ],
  [
    {
      by: "tester",
      body: "Tried it on the two quays that have the new scanners. Works on both; the beep is a little late.",
      before: 9,
    },
    {
      by: "assignee",
      body: "The beep is the scanner's own. `beep.delay` is 400 ms there.",
      answers: 0,
      before: 8,
    },
  ],
  [
    {
      by: "reviewer",
      body: "@lead should this wait for the storm rules? They change the same table.",
      asks: true,
      before: 3,
    },
  ],
];
