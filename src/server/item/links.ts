import { and, eq, or } from "drizzle-orm";
import type { ItemCommand } from "@/core/item/command";
import type { ItemSnapshot, LinkKind } from "@/core/item/fields";
import type { Transaction } from "@/db/connection";
import { itemLink } from "@/db/schema";
import type { Principal } from "../people/viewer";
import { invalid, notFound } from "../refused";
import type { Entered } from "./errand";
import type { CommandRequest } from "@/core/item/request";
import { refuseCircle } from "./around";
import { lockOther, lockOtherByKey } from "./seen-item";
import { v7 as newId } from "uuid";

type LinkCommand = Extract<ItemCommand, { kind: "link" | "unlink" }>;
type LinkRequest = Extract<CommandRequest, { kind: "link" | "unlink" }>;

/** What a wish to link, or to take a link away, means for the item that it is said of. */
export async function linkCommand(
  tx: Transaction,
  by: Principal,
  { before }: Entered & { before: ItemSnapshot },
  request: LinkRequest,
): Promise<LinkCommand> {
  if (request.kind === "link") {
    const other = await lockOtherByKey(tx, by, request.otherKey);
    const outward = request.turned !== true;
    const [from, to] = outward ? [before.id, other.id] : [other.id, before.id];
    await checkNewLink(tx, from, to, request.linkKind);
    if (request.linkKind === "waits for") await refuseCircle(tx, { waiting: from, for: to });
    return {
      kind: "link",
      linkId: newId(),
      linkKind: request.linkKind,
      otherId: other.id,
      otherKey: other.key,
      outward,
    };
  }
  const [link] = await tx.select().from(itemLink).where(eq(itemLink.id, request.linkId));
  const outward = link?.fromItemId === before.id;
  if (!link || (!outward && link.toItemId !== before.id)) throw notFound("link");
  const otherId = outward ? link.toItemId : link.fromItemId;
  const other = await lockOther(tx, by, otherId, "link");
  return {
    kind: "unlink",
    linkId: link.id,
    linkKind: link.kind,
    otherId,
    otherKey: other.key,
    outward,
  };
}

/** The same link as its other end has it. */
export const fromOtherEnd = (command: LinkCommand, one: { id: string; key: string }) => ({
  ...command,
  otherId: one.id,
  otherKey: one.key,
  outward: !command.outward,
});

/** Both ends are locked: nobody else makes the same link meanwhile. */
async function checkNewLink(
  tx: Transaction,
  fromId: string,
  toId: string,
  kind: LinkKind,
): Promise<void> {
  const there = and(eq(itemLink.fromItemId, fromId), eq(itemLink.toItemId, toId));
  const back = and(eq(itemLink.fromItemId, toId), eq(itemLink.toItemId, fromId));
  const [known] = await tx
    .select({ id: itemLink.id })
    .from(itemLink)
    .where(and(eq(itemLink.kind, kind), kind === "relates to" ? or(there, back) : there));
  if (known)
    throw invalid(
      "The two are linked like this already.",
      "Take the link away first, or choose another kind.",
    );
}
