import { and, desc, eq, inArray, type SQL } from "drizzle-orm";
import { daysThere } from "@/core/ship/open-work";
import type {
  AcceptanceView,
  ItemAcceptance,
  OwnShown,
  ShowingView,
  ToBeShown,
} from "@/core/ship/acceptance/acceptance-view";
import { closedBecause } from "@/core/ship/acceptance/showing";
import { isInProgress, type State } from "@/core/workflow/state";
import type { Workflow } from "@/core/workflow/workflow";
import { sourcesOf } from "@/core/workflow/graph";
import { database, type Reader } from "@/db/connection";
import { item, person, showing, shownItem, shownPicture } from "@/db/schema";
import { seeByKey } from "../../item/by-key";
import { seenIn } from "../../item/list/enter";
import { namedItems, type NamedRow } from "../../item/list/named";
import { readRowsOf } from "../../item/list/read";
import { enterProject, type ProjectAccess } from "../../people/access";
import { roster } from "../../people/roster";
import type { Viewer } from "../../people/viewer";
import { loadProjectWorkflows } from "../../workflow/load";
import { acceptedNow } from "./accepted-now";
import { mayChange } from "./change";
import { acceptanceOf, saidOf, shownBy, type Shown, type ShowingRow } from "./rows";
import { showingAddress } from "./show";

/** So many that were asked last are shown. */
const MOST_SHOWINGS = 120;
const MOST_WAITING = 300;

/** What of a project waits to be accepted, and whom it was shown to. @throws Refused */
export async function readAcceptance(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<AcceptanceView> {
  const reader = database();
  const where = { key: projectKey };
  const access = await enterProject({ reader, viewer, where, action: "read project" });
  const { id: projectId, key, name, zone } = access.project;
  const [workflows, showings, { people }] = await Promise.all([
    loadProjectWorkflows(reader, projectId),
    readShowings(reader, eq(showing.projectId, projectId)),
    roster(reader, projectId),
  ]);
  const shown = await shownBy(
    reader,
    showings.map(({ row: { id } }) => id),
  );
  const itemIds = [...shown.values()].flat().map(({ row: { itemId } }) => itemId);
  const seen = await namedItems(viewer, itemIds, reader);
  const states = workflows.flatMap(statesBeforeAcceptance);
  const looking: Looking = { viewer, access, shown, seen, now };
  return {
    project: { key, name, zone },
    me: { id: viewer.personId, name: viewer.name },
    own: await ownOf(reader, showings, looking),
    waiting: await waitingIn(reader, states, looking),
    showings: showings.flatMap((one) => showingView(one, looking)),
    inProcess: states.length > 0,
    people: people.map(({ id, name: called }) => ({ id, name: called })),
    rights: { edit: access.may("edit item") },
    now,
  };
}

interface Asked {
  row: ShowingRow;
  askedBy: string;
}

interface Looking {
  viewer: Viewer;
  access: ProjectAccess;
  shown: ReadonlyMap<string, Shown[]>;
  seen: ReadonlyMap<string, NamedRow>;
  now: number;
}

/** What was shown to whom, what was asked last first. */
const readShowings = (reader: Reader, which: SQL): Promise<Asked[]> =>
  reader
    .select({ row: showing, askedBy: person.name })
    .from(showing)
    .innerJoin(person, eq(person.id, showing.askedBy))
    .where(which)
    .orderBy(desc(showing.askedAt), desc(showing.id))
    .limit(MOST_SHOWINGS);

/** The states in which the process waits for a word: a move out of them happens by it, or demands it. */
function statesBeforeAcceptance(workflow: Workflow): State[] {
  const waits = workflow.transitions.filter(
    ({ triggers, requirements }) =>
      triggers.some(({ kind }) => kind === "accepted" || kind === "something missing") ||
      requirements.some(({ kind }) => kind === "accepted"),
  );
  const sources = new Set(waits.flatMap((transition) => sourcesOf(workflow, transition)));
  return workflow.states.filter(({ id, kind }) => sources.has(id) && isInProgress(kind));
}

async function waitingIn(
  reader: Reader,
  states: readonly State[],
  { viewer, access, now }: Looking,
): Promise<ToBeShown[]> {
  if (states.length === 0) return [];
  const { id: projectId, key, zone } = access.project;
  const of = seenIn(reader, viewer, [projectId]);
  const where = and(
    of.where,
    inArray(
      item.stateId,
      states.map(({ id }) => id),
    ),
  );
  const rows = await readRowsOf({ reader, where }, MOST_WAITING);
  const acceptance = await acceptanceOf(
    reader,
    rows.map(({ id }) => id),
  );
  return rows
    .map((row): ToBeShown & { since: number } => ({
      ...{ id: row.id, key: `${key}-${row.number}`, title: row.title, typeId: row.typeId },
      stateName: states.find(({ id }) => id === row.stateId)!.name,
      days: daysThere(row.enteredStateAt, zone, now),
      acceptance: acceptance.get(row.id)!,
      since: row.enteredStateAt,
    }))
    .toSorted((a, b) => a.since - b.since)
    .map(({ since: _, ...row }) => row);
}

/** What is shown to whoever looks, and can be answered; what they accepted stands last. */
async function ownOf(
  reader: Reader,
  showings: readonly Asked[],
  { viewer, shown, seen, now }: Looking,
): Promise<OwnShown[]> {
  const mine = showings.filter(
    ({ row }) => row.personId === viewer.personId && closedBecause(row, now) === null,
  );
  if (mine.length === 0) return [];
  const pictures = await reader
    .select()
    .from(shownPicture)
    .where(
      inArray(
        shownPicture.showingId,
        mine.map(({ row }) => row.id),
      ),
    );
  return mine
    .flatMap(({ row, askedBy }) =>
      (shown.get(row.id) ?? []).map(({ row: one, answered }): OwnShown => ({
        ...{ showingId: row.id, itemId: one.itemId, title: one.title, how: one.how },
        ...{ key: seen.get(one.itemId)?.key ?? null, address: one.address, tested: one.tested },
        pictures: pictures
          .filter(({ showingId, itemId }) => showingId === row.id && itemId === one.itemId)
          .map(({ id, name, width, height }) => ({ id, name, width, height })),
        ...{ words: row.words, askedBy, askedAt: row.askedAt, answered },
      })),
    )
    .toSorted((a, b) => Number(a.answered === "accepted") - Number(b.answered === "accepted"));
}

/** Somebody whom something is shown to; nothing where whoever looks may see none of it and did not ask. */
function showingView(
  { row, askedBy }: Asked,
  { viewer, access, shown, seen, now }: Looking,
): ShowingView[] {
  const all = shown.get(row.id) ?? [];
  const rows = all.flatMap(({ row: one, answers, answered }) => {
    const named = seen.get(one.itemId);
    if (!named) return [];
    const { key, title, typeId, stateName } = named;
    return [
      {
        ...{ itemId: one.itemId, key, title, typeId, stateName, answered },
        said: answers.map(saidOf),
      },
    ];
  });
  const may = mayChange(viewer, access, row);
  if (rows.length === 0) return [];
  const { id, name, mail, askedAt, until, reminders, remindedAt, token, personId } = row;
  const closed = closedBecause(row, now);
  return [
    {
      ...{ id, name, mail: access.may("edit item") ? mail : "", inside: personId !== null },
      page: may && token !== null && closed === null ? showingAddress(token) : null,
      ...{ askedBy, askedAt, until, closed, reminders, remindedAt },
      ...{ mayChange: may, rows, unseen: all.length - rows.length },
    },
  ];
}

/** Whom an item was shown to, and what they said of it. @throws Refused */
export async function readItemAcceptance(
  viewer: Viewer,
  itemKey: string,
  now = Date.now(),
): Promise<ItemAcceptance> {
  const reader = database();
  const { itemId, access } = await seeByKey(reader, viewer, itemKey, "read project");
  const ofItem = reader
    .select({ id: shownItem.showingId })
    .from(shownItem)
    .where(eq(shownItem.itemId, itemId));
  const showings = await readShowings(reader, inArray(showing.id, ofItem));
  const [shown, acceptance] = await Promise.all([
    shownBy(
      reader,
      showings.map(({ row: { id } }) => id),
    ),
    acceptedNow(reader, itemId),
  ]);
  return {
    acceptance,
    to: showings.flatMap(({ row, askedBy }) => {
      const own = (shown.get(row.id) ?? []).find((one) => one.row.itemId === itemId);
      if (!own) return [];
      const { id, name, personId, askedAt, until, remindedAt } = row;
      return [
        {
          ...{ id, name, inside: personId !== null, askedBy, askedAt, until, remindedAt },
          closed: closedBecause(row, now),
          ...{ answered: own.answered, said: own.answers.map(saidOf) },
        },
      ];
    }),
    rights: { edit: access.may("edit item") },
    now,
  };
}
