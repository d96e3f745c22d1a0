import { HOUR, type Instant } from "@/core/calendar/instant";
import { OFFICE_HOURS } from "@/core/calendar/working-time";
import type { Condition } from "@/core/condition/condition";
import type { Random } from "@/core/forecast/random";
import { FIRST_MODEL } from "@/core/intake/scoring";
import { FIRST_TRIAGE_RULES } from "@/core/intake/triage-rules";
import type { intakeRules, itemScore, itemVote } from "@/db/schema";
import type { DemoItem } from "./history";
import { PEOPLE } from "./people";
import type { DemoProject } from "./projects";

const bugs = (...severities: string[]): Condition => ({
  kind: "all",
  of: [
    { kind: "compare", fact: "typeId", op: "is", value: "bug" },
    { kind: "compare", fact: "severity", op: "one of", value: severities },
  ],
});

/** What the crew promises, when it works, and how it weighs requests. */
export function demoRules(project: DemoProject): typeof intakeRules.$inferInsert {
  const id = project.key.toLowerCase();
  return {
    projectId: id,
    calendar: {
      ...OFFICE_HOURS,
      week: OFFICE_HOURS.week.map((d) => d && { from: 8 * 60, to: 17 * 60 }),
      holidays: [
        { date: "2026-12-25", name: "No sailings" },
        { date: "2026-12-28", name: "Winter dock" },
      ],
    },
    targets: [
      {
        id: `${id}-critical`,
        name: "Critical at the quay",
        condition: bugs("critical"),
        answerHours: 2,
        resolveHours: 48,
        working: false,
      },
      {
        id: `${id}-major`,
        name: "Bugs that hurt",
        condition: bugs("major"),
        answerHours: 27,
        resolveHours: 180,
        working: true,
      },
      {
        id: `${id}-bugs`,
        name: "All other bugs",
        condition: { kind: "compare", fact: "typeId", op: "is", value: "bug" },
        answerHours: 54,
        resolveHours: 360,
        working: true,
      },
    ],
    scoring: { ...FIRST_MODEL, valueFieldId: `${id}-value`, weeksFieldId: `${id}-weeks` },
    triage: {
      ...FIRST_TRIAGE_RULES,
      questions: [
        ...FIRST_TRIAGE_RULES.questions,
        {
          id: "ticket",
          name: "Ticket and sailing",
          text: "Which ticket was it, for which sailing, and what did the scanner or the crew say?",
        },
      ],
      declineReasons: [
        ...FIRST_TRIAGE_RULES.declineReasons,
        "This is a rule of the harbour authority, which we cannot change.",
        "The sailing in question does not run any more since the winter timetable.",
      ],
    },
    version: 1,
  };
}

/** How part of the backlog was judged, and who wants what. */
export function demoWorth(
  items: readonly DemoItem[],
  random: Random,
  now: Instant,
): { scores: (typeof itemScore.$inferInsert)[]; votes: (typeof itemVote.$inferInsert)[] } {
  const scores: (typeof itemScore.$inferInsert)[] = [];
  const votes: (typeof itemVote.$inferInsert)[] = [];
  for (const { snapshot } of items) {
    if (snapshot.stateKind !== "unstarted" || snapshot.parentId) continue;
    if (random.chance(0.6))
      scores.push({
        itemId: snapshot.id,
        scores: {
          reach: 1 + random.index(5),
          pain: 1 + random.index(5),
          ...(random.chance(0.9) ? { goal: random.index(6) } : {}),
        },
        byId: "ines",
        at: now - 30 * HOUR,
      });
    for (const p of PEOPLE)
      if (random.chance(0.12))
        votes.push({ itemId: snapshot.id, personId: p.id, at: now - 50 * HOUR });
  }
  return { scores, votes };
}
