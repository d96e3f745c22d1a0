import { and, eq, inArray, isNotNull, ne, sql, type SQL } from "drizzle-orm";
import { ageTrack } from "@/core/board/age-track";
import { cardOf } from "@/core/board/card";
import { dayNumber, parseIsoDate } from "@/core/calendar/zone";
import { ageOf, ageWords } from "@/core/flow/age";
import type { Paces } from "@/core/flow/pace";
import type { Instant } from "@/core/calendar/instant";
import { blockerWords } from "@/core/item/blocker";
import { countedClock } from "@/core/item/start-finish";
import type { DayItem } from "@/core/today/day";
import { transitionsFrom } from "@/core/workflow/workflow";
import type { Reader } from "@/db/connection";
import { item } from "@/db/schema";
import { seenIn } from "../item/list/enter";
import { readChances, type Chances } from "../plan/lifetimes";
import { readIds, readRows } from "../item/list/read";
import { snapshotOf, type ItemRow } from "../item/rows";
import type { Viewer } from "../people/viewer";
import type { DayProject, StateOfDay } from "./ground";

/** So many items of one person are looked at. */
const MOST = 600;

/** Items that somebody has to do with today, as far as they may see them. */
export async function dayRows(
  reader: Reader,
  viewer: Viewer,
  {
    projects,
    meanings,
    also,
  }: {
    projects: readonly DayProject[];
    meanings: ReadonlyMap<string, StateOfDay>;
    /** Items that questions and news are about. */
    also: readonly string[];
  },
): Promise<ItemRow[]> {
  const me = viewer.personId;
  const ids = projects.map(({ access }) => access.project.id);
  if (ids.length === 0) return [];
  const tested = projects.filter(({ tests }) => tests).map(({ access }) => access.project.id);
  const statesFor = (wanted: (of: StateOfDay) => boolean) =>
    [...meanings].filter(([, of]) => wanted(of)).map(([id]) => id);
  const toTest = statesFor(({ ofTest, state }) => ofTest && state.kind === "waiting");
  const inReview = statesFor(({ ofReview }) => ofReview);
  const seen = seenIn(reader, viewer, ids).where;
  // Each asked by itself, so that each finds its own index.
  const wanted: (SQL | undefined)[] = [
    and(eq(item.assigneeId, me), inArray(item.stateKind, ["waiting", "working"])),
    and(eq(item.assigneeId, me), isNotNull(item.dueOn), ne(item.stateKind, "finished")),
    inReview.length > 0
      ? and(
          eq(item.reviewerId, me),
          inArray(item.stateKind, ["waiting", "working"]),
          inArray(item.stateId, inReview),
        )
      : undefined,
    tested.length > 0 && toTest.length > 0
      ? and(inArray(item.projectId, tested), inArray(item.stateId, toTest))
      : undefined,
    and(
      sql`${item.openBlockers} <> '[]'::jsonb`,
      sql`exists (select 1 from jsonb_array_elements(${item.openBlockers}) b
        where lower(b ->> 'waitingFor') in (${viewer.name.toLowerCase()}, ${firstName(viewer)}))`,
    ),
    also.length > 0 ? inArray(item.id, [...also]) : undefined,
  ].filter((one) => one !== undefined);
  const found = await Promise.all(
    wanted.map((one) => readIds({ reader, where: and(seen, one) }, MOST)),
  );
  return readRows(reader, { ids: [...new Set(found.flat())] });
}

const firstName = ({ name }: Viewer) => name.split(" ")[0].toLowerCase();

/** An item as its person's day shows it. */
export function dayItemOf(
  row: ItemRow,
  {
    viewer,
    projects,
    meanings,
    paces,
    nameOf,
    keyOf,
    chances,
    now,
  }: {
    viewer: Viewer;
    projects: readonly DayProject[];
    meanings: ReadonlyMap<string, StateOfDay>;
    /** What ages are drawn against; without a project's there is no track. */
    paces: Paces;
    nameOf: (personId: string) => string | null;
    /** The key of an item that this person may see. */
    keyOf: (itemId: string) => string | null;
    /** By project: the chances of what is in progress there. */
    chances: ReadonlyMap<string, Chances>;
    now: Instant;
  },
): DayItem | null {
  const project = projects.find(({ access }) => access.project.id === row.projectId);
  const meaning = meanings.get(row.stateId);
  if (!project || !meaning) return null;
  const { key, zone } = project.access.project;
  const card = cardOf(snapshotOf(row), key);
  const { state, workflow, ofReview, ofTest } = meaning;
  const pace = paces[key];
  const age = ageOf(countedClock(row), zone, now);
  const begun = card.clock.length > 0 && row.stateKind !== "unstarted";
  const track = begun && pace ? ageTrack(age, pace.expectation.days, pace.percentiles) : null;
  const expected = project.access.project.expectationDays;
  const over = begun ? age.age - expected : 0;
  const [next] = transitionsFrom(workflow, row.stateId);
  const me = viewer.personId;
  const names = [viewer.name.toLowerCase(), firstName(viewer)];
  const words = row.openBlockers.map((blocker) => blockerWords(blocker, keyOf));
  const chanceByDue = (dueOn: string | null) => {
    const more = dueOn === null ? -1 : parseIsoDate(dueOn) - dayNumber(now, zone);
    return more < 0 ? null : (chances.get(row.projectId)?.(age.age, more) ?? null);
  };
  const stays = ageOf([{ from: row.enteredStateAt, to: now }], zone, now);
  return {
    card,
    projectKey: key,
    stateName: state.name,
    stateKind: state.kind,
    ofReview,
    ofTest,
    forAssignee: !ofReview && !ofTest && !handsOn(meaning, next?.to, workflow.states),
    track,
    share: begun ? age.age / Math.max(1, expected) : 0,
    pastExpectation: over > 0 ? `${over} d past what is expected` : null,
    next: next && project.access.may("move item") ? { verb: next.verb, to: next.to } : null,
    mine: {
      assignee: row.assigneeId === me,
      reviewer: row.reviewerId === me,
      tests: project.tests,
    },
    reviewerName: row.reviewerId === null ? null : nameOf(row.reviewerId),
    blocked:
      words.length === 0
        ? null
        : {
            words: `blocked: ${words.join(", ")}`,
            byMe: row.openBlockers.some(({ waitingFor }) =>
              names.includes(waitingFor?.toLowerCase() ?? ""),
            ),
          },
    since: ageWords(stays),
    byDue: begun ? chanceByDue(row.dueOn) : null,
  };
}

/** Of which projects it is asked how likely their items are finished: those with days to hold. */
export async function chancesFor(
  reader: Reader,
  rows: readonly ItemRow[],
  { viewer, projects, now }: { viewer: Viewer; projects: readonly DayProject[]; now: Instant },
): Promise<ReadonlyMap<string, Chances>> {
  const due = rows.filter(
    ({ assigneeId, dueOn, stateKind }) =>
      assigneeId === viewer.personId &&
      dueOn !== null &&
      (stateKind === "waiting" || stateKind === "working"),
  );
  const asked = new Set(due.map(({ projectId }) => projectId));
  const known = await Promise.all(
    projects
      .filter(({ access }) => asked.has(access.project.id))
      .map(
        async ({ access: { project } }) =>
          [project.id, await readChances(reader, project, now)] as const,
      ),
  );
  return new Map(known);
}

/** Whether what follows from where an item waits is no work of whoever has it: it goes out. */
function handsOn(
  { state }: StateOfDay,
  to: string | undefined,
  states: StateOfDay["workflow"]["states"],
): boolean {
  if (state.kind !== "waiting") return false;
  return states.find(({ id }) => id === to)?.kind === "finished";
}
