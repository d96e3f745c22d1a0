import type { Card } from "@/core/board/card";
import type { Day } from "@/core/calendar/month";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { foldCase } from "@/core/formats/fold-case";
import type { StateId } from "@/core/workflow/state";
import type { BacklogOrders } from "./backlog-look";
import type { BacklogView } from "./backlog-view";
import { sprintStanding, type PlannedSprint } from "./sprint";

/*
 * The parts of a backlog. As one list it has one part; by state what is chosen next stands above what
 * waits behind it; by sprint the one that runs stands first.
 */

/** What a part of a backlog holds: all that waits, what is in some states, or in a sprint or none. */
export type SectionHolds =
  | { kind: "all" }
  | { kind: "states"; stateIds: readonly StateId[] }
  | { kind: "sprint"; sprintId: string }
  | { kind: "no sprint"; sprintIds: readonly string[] };

export interface BacklogSection {
  /** As it is asked for. */
  id: string;
  name: string;
  holds: SectionHolds;
  /** Whether it is the column that the others are pulled into. */
  pulledInto: boolean;
}

/** What the parts of a backlog are made from. */
export interface SectionGround {
  /** The column that items are pulled into. */
  column: { stage: string; stateIds: readonly StateId[] } | null;
  /** The states in which items wait to be begun, in the order of their workflows. */
  waiting: readonly { id: StateId; name: string }[];
  sprints: readonly PlannedSprint[];
  today: Day;
}

/** So many sprints to come are parts of a backlog; the later ones stand beside it. */
const MOST_COMING = 6;

export const WHOLE: BacklogSection = {
  id: "all",
  name: "Backlog",
  holds: { kind: "all" },
  pulledInto: false,
};

/** The parts of a backlog, from the one that is nearest to being begun on. */
export function backlogSections(how: BacklogOrders, ground: SectionGround): BacklogSection[] {
  if (how === "by state") return byState(ground);
  if (how === "by sprint") return bySprint(ground);
  return [WHOLE];
}

/** The parts of a backlog that somebody looks at. */
export const sectionsIn = (
  { pulledInto, waiting, sprints, now, project }: BacklogView,
  how: BacklogOrders,
): BacklogSection[] =>
  backlogSections(how, {
    column: pulledInto?.column ?? null,
    waiting,
    sprints,
    today: isoDate(dayNumber(now, project.zone)),
  });

/** States of the same name in several workflows are one part. */
function byState({ column, waiting }: SectionGround): BacklogSection[] {
  const named = new Map<string, { name: string; stateIds: StateId[] }>();
  for (const { id, name } of waiting) {
    const known = named.get(foldCase(name)) ?? { name, stateIds: [] };
    known.stateIds.push(id);
    named.set(foldCase(name), known);
  }
  const states = [...named].toReversed().map(([folded, { name, stateIds }]) => ({
    id: `state:${folded}`,
    name,
    holds: { kind: "states", stateIds } as const,
    pulledInto: false,
  }));
  if (column === null) return states;
  const { stage, stateIds } = column;
  const next = {
    id: "next",
    name: stage,
    holds: { kind: "states", stateIds } as const,
    pulledInto: true,
  };
  return [next, ...states];
}

function bySprint({ sprints, today }: SectionGround): BacklogSection[] {
  const open = sprints
    .filter((sprint) => sprint.endedAt === null)
    .toSorted((a, b) => (a.startsOn < b.startsOn ? -1 : 1));
  const begun = open.filter((sprint) => sprintStanding(sprint, today) !== "coming");
  const coming = open.filter((sprint) => sprintStanding(sprint, today) === "coming");
  const shown = [...begun, ...coming.slice(0, MOST_COMING)];
  return [
    ...shown.map(({ id, name }) => ({
      id: `sprint:${id}`,
      name,
      holds: { kind: "sprint", sprintId: id } as const,
      pulledInto: false,
    })),
    {
      id: "no sprint",
      name: shown.length === 0 ? "In no sprint" : "In none of these",
      holds: { kind: "no sprint", sprintIds: shown.map(({ id }) => id) },
      pulledInto: false,
    },
  ];
}

/** Whether an item that is known belongs to a part of the backlog. */
export function isInSection({ holds }: BacklogSection, card: Card): boolean {
  if (card.withdrawn) return false;
  const waits = card.stateKind === "unstarted";
  if (holds.kind === "all") return waits;
  if (holds.kind === "states") return holds.stateIds.includes(card.stateId);
  if (holds.kind === "sprint")
    return card.sprintId === holds.sprintId && card.stateKind !== "finished";
  return waits && (card.sprintId === null || !holds.sprintIds.includes(card.sprintId));
}

/**
 * The part whose rows are all that waits, in the order of their rank: the reach is drawn there. None
 * where the backlog stands in several.
 */
export function rankedSection(sections: readonly BacklogSection[]): BacklogSection | null {
  const waiting = sections.filter(({ holds, pulledInto }) =>
    holds.kind === "all" ? true : holds.kind === "states" && !pulledInto,
  );
  return waiting.length === 1 ? waiting[0] : null;
}
