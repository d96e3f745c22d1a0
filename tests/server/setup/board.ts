import { NO_LIMIT, type ColumnLimit } from "@/core/board/limit";
import type { LimitCounting } from "@/core/board/limit-counting";
import { editLimit } from "@/server/board/edit-limits";
import { limitsInForce, setLimit } from "@/server/board/limits";
import { INES } from "./people";
import { randomUUID } from "node:crypto";
import { and, eq, isNull, ne } from "drizzle-orm";
import type { Viewer } from "@/server/people/viewer";
import type { CommandRequest } from "@/core/item/request";
import { database } from "@/db/connection";
import { boardColumn, columnState, item, state } from "@/db/schema";
import { commandItem } from "@/server/item/command";
import { createItem } from "@/server/item/create";
import { Refused } from "@/server/refused";

/** The id of a state of TIX's main workflow by its name. */
export async function stateId(name: string): Promise<string> {
  const [row] = await database()
    .select({ id: state.id })
    .from(state)
    .where(and(eq(state.workflowId, "tix-main"), eq(state.name, name)));
  return row.id;
}

/** Creates a story in TIX and takes it through some states; returns its id. */
export async function itemIn(viewer: Viewer, title: string, ...path: string[]): Promise<string> {
  const { card } = await createItem(viewer, {
    commandId: randomUUID(),
    projectKey: "TIX",
    parentId: null,
    fields: { title, typeId: "story" },
  });
  for (const name of path) await move(viewer, card.id, name);
  return card.id;
}

/** Answers that satisfy the demo's rules. */
/** The steps of the demo's process from the backlog to its end. */
export const TO_LIVE = [
  "Ready",
  "Building",
  "Waiting for review",
  "In review",
  "Waiting for test",
  "In test",
  "Ready to deploy",
  "Live",
];

export const ANSWERS = {
  assigneeId: "noor",
  reviewerId: "ivo",
  howToTest: "Look at it.",
  reason: "It is cut off.",
};

export async function send(
  viewer: Viewer,
  itemId: string,
  command: CommandRequest,
  commandId = randomUUID(),
) {
  return commandItem(viewer, { commandId, itemId, command });
}

export async function move(
  viewer: Viewer,
  itemId: string,
  to: string,
  answers: object = ANSWERS,
  more: object = {},
) {
  const [row] = await database()
    .select({ stateId: item.stateId })
    .from(item)
    .where(eq(item.id, itemId));
  return send(viewer, itemId, {
    kind: "move",
    from: row.stateId,
    to: await stateId(to),
    answers,
    ...more,
  });
}

/** The code of the refusal that a use case ends with. */
export async function refusalOf(work: Promise<unknown>): Promise<string> {
  try {
    await work;
  } catch (error) {
    if (error instanceof Refused) return error.refusal.code;
    throw error;
  }
  return "nothing refused";
}

/** The board column that covers a state of TIX. */
export async function columnOf(stateName: string) {
  const [row] = await database()
    .select({ column: boardColumn })
    .from(boardColumn)
    .innerJoin(columnState, eq(columnState.columnId, boardColumn.id))
    .where(eq(columnState.stateId, await stateId(stateName)));
  const id = await stateId(stateName);
  const limits = await limitsInForce(database(), "state", [id]);
  return { ...row.column, ...(limits.get(id) ?? NO_LIMIT) };
}

/** Changes the limit of a column of a board of TIX, or of one of its states, as a lead does. */
export const limitColumn = (
  column: { id: string; boardId: string },
  seenVersion: number,
  limit: Partial<ColumnLimit & LimitCounting>,
  { stateId: ofState, by = INES }: { stateId?: string; by?: Viewer } = {},
) =>
  editLimit(by, "TIX", {
    boardId: column.boardId,
    seenVersion,
    on: { kind: "column", columnId: column.id, stateId: ofState },
    of: null,
    unit: "items",
    level: null,
    fixedDatePasses: false,
    ...NO_LIMIT,
    ...limit,
  });

/** Puts a firm maximum on a state of TIX. */
export async function limitFirmly(stateName: string, max: number): Promise<void> {
  const owner = { projectId: "tix", kind: "state", id: await stateId(stateName) } as const;
  await database().transaction((tx) => setLimit(tx, owner, { ...NO_LIMIT, max, maxFirm: true }));
}

/** @param which leaves expedite items out where it is "standard" */
export async function countIn(stateName: string, which: "all" | "standard" = "all") {
  const rows = await database()
    .select({ id: item.id })
    .from(item)
    .where(
      and(
        eq(item.stateId, await stateId(stateName)),
        isNull(item.withdrawnAt),
        which === "all" ? undefined : ne(item.classOfService, "expedite"),
      ),
    );
  return rows.length;
}
