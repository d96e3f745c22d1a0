import { cardOf, type Card } from "@/core/board/card";
import type { Action } from "@/core/people/authorise";
import type { ScopeQuestion } from "@/core/plan/scope-reason";
import { eq } from "drizzle-orm";
import { transact, type Transaction } from "@/db/connection";
import { project } from "@/db/schema";
import type { ProjectAccess } from "../people/access";
import type { Viewer } from "../people/viewer";
import { scopeQuestionOf } from "../plan/scope-reasons";
import { recordCommand } from "./command-key";
import { throughDoor } from "./door";
import { enterItem } from "./enter";
import type { CommandRequest } from "@/core/item/request";
import { withVisibleOther } from "./visible-others";

const ACTION_OF: Record<CommandRequest["kind"], Action> = {
  move: "move item",
  edit: "edit item",
  place: "rank item",
  "put under": "edit item",
  comment: "comment item",
  ask: "comment item",
  "edit comment": "comment item",
  "take back comment": "comment item",
  "close talk": "close talk",
  block: "block item",
  lift: "block item",
  ready: "move item",
  link: "link item",
  unlink: "link item",
  meet: "edit item",
  tick: "move item",
  approve: "move item",
  "remove file": "edit item",
  "put file back": "edit item",
  "record time": "edit item",
  "remove time": "edit item",
  withdraw: "withdraw item",
  "bring back": "withdraw item",
  "change type": "edit item",
  "change project": "edit item",
  undo: "edit item",
};

/** What somebody has to be allowed for a command. */
export const actionOf = (kind: CommandRequest["kind"]): Action => ACTION_OF[kind];

export interface CommandResult {
  card: Card;
  /** False when this command had been carried out before and nothing was done now. */
  fresh: boolean;
}

/** The same for what somebody does to one item: what they are asked about it. */
export interface AskedResult extends CommandResult {
  /** Where it changed what a sprint holds that runs. */
  asksWhy: ScopeQuestion | null;
}

/** What keys of its project begin with now: a command can have taken it to another one. */
async function projectKeyOf(
  tx: Transaction,
  { projectId }: { projectId: string },
  { project: entered }: ProjectAccess,
): Promise<string> {
  if (projectId === entered.id) return entered.key;
  const [row] = await tx
    .select({ key: project.key })
    .from(project)
    .where(eq(project.id, projectId));
  return row.key;
}

/**
 * Carries out a person's command on an item, in one transaction.
 * @throws Refused with the core's refusal, or when the person may not do it
 */
export async function commandItem(
  viewer: Viewer,
  request: { commandId: string; itemId: string; command: CommandRequest },
): Promise<AskedResult> {
  const { commandId, itemId, command } = request;
  return transact(async (tx) => {
    const entered = await enterItem(tx, viewer, itemId, actionOf(command.kind));
    const fresh = await recordCommand(tx, commandId, viewer.personId, {
      itemId,
      what: `${command.kind} ${itemId}`,
    });
    const now = fresh
      ? await throughDoor(tx, viewer, { on: entered, commandId, ask: command })
      : entered.before;
    const card = cardOf(now, await projectKeyOf(tx, now, entered.access));
    const asksWhy =
      command.kind === "edit" ? await scopeQuestionOf(tx, entered.before, now, commandId) : null;
    return { card: await withVisibleOther(tx, viewer, card), fresh, asksWhy };
  });
}
