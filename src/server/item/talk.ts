import { and, eq, inArray, isNull, or } from "drizzle-orm";
import type { CommentNow, ItemCommand } from "@/core/item/command";
import { namedIn, type Nameable } from "@/core/talk/named";
import type { Reader, Transaction } from "@/db/connection";
import { comment, membership, person, talkClosed, team, teamMember } from "@/db/schema";
import { fileNamesAt } from "./read-files";
import type { Principal } from "../people/viewer";
import { notFound } from "../refused";
import type { CommandRequest } from "@/core/item/request";
import type { EnteredItem } from "./enter";
import { v7 as newId } from "uuid";

type Request<K extends CommandRequest["kind"]> = Extract<CommandRequest, { kind: K }>;

/** Whom texts in a project may name: its people, and the teams that some of them belong to. */
export async function nameableIn(reader: Reader, projectId: string): Promise<Nameable[]> {
  const people = await reader
    .select({ id: person.id, name: person.name })
    .from(person)
    .leftJoin(
      membership,
      and(eq(membership.personId, person.id), eq(membership.projectId, projectId)),
    )
    .where(
      and(
        isNull(person.endedAt),
        or(eq(membership.projectId, projectId), eq(person.administrator, true)),
      ),
    );
  const teams = await reader
    .selectDistinct({ id: team.id, name: team.name })
    .from(team)
    .innerJoin(teamMember, eq(teamMember.teamId, team.id))
    .innerJoin(membership, eq(membership.personId, teamMember.personId))
    .where(eq(membership.projectId, projectId));
  return [
    ...people.map((one) => ({ kind: "person" as const, ...one })),
    ...teams.map((one) => ({ kind: "team" as const, ...one })),
  ];
}

/** What somebody says, with whom it names and asks; a question to nobody asks whoever has the item. */
export async function saying(
  tx: Transaction,
  by: Principal,
  { before, access }: EnteredItem,
  ask: Request<"comment" | "ask">,
): Promise<ItemCommand> {
  const commentId = newId();
  const closed = (await closingOf(tx, before.id)) ?? undefined;
  const { body } = ask;
  if (ask.kind === "ask")
    return { kind: "comment", commentId, body, audience: "reporters", closed };
  if (by.personId === null)
    return { kind: "comment", commentId, body, closed, fromOutside: by.requester };
  const named = namedIn(body, body.includes("@") ? await nameableIn(tx, access.project.id) : []);
  const answersId = ask.answersId && (await commentNow(tx, before.id, ask.answersId)).commentId;
  if (ask.spot && !(await fileNamesAt(tx, before.id)).has(ask.spot.fileId)) throw notFound("file");
  const asks = ask.asks ? await asked(tx, by, named, before.assigneeId) : [];
  return {
    kind: "comment",
    commentId,
    body,
    closed,
    ...(named.people.length + named.teams.length > 0 ? { named } : {}),
    ...(answersId ? { answersId } : {}),
    ...(asks.length > 0 ? { asks } : {}),
    ...(ask.spot ? { spot: ask.spot } : {}),
  };
}

/** Whom a question asks: all that it names, or whoever has the item; never whoever asks. */
async function asked(
  tx: Transaction,
  by: Principal,
  { people, teams }: { people: readonly string[]; teams: readonly string[] },
  assigneeId: string | null,
): Promise<string[]> {
  const members =
    teams.length === 0
      ? []
      : await tx
          .select({ id: teamMember.personId })
          .from(teamMember)
          .where(inArray(teamMember.teamId, [...teams]));
  const all = [...people, ...members.map(({ id }) => id)];
  if (all.length === 0 && assigneeId !== null) all.push(assigneeId);
  return [...new Set(all)].filter((id) => id !== by.personId);
}

/** A comment that is to be changed or taken back, or a talk that is to be closed. */
export async function changingTalk(
  tx: Transaction,
  { before, access }: EnteredItem,
  ask: Request<"edit comment" | "take back comment" | "close talk">,
): Promise<ItemCommand> {
  if (ask.kind === "close talk") return { ...ask, was: await closingOf(tx, before.id) };
  const was = await commentNow(tx, before.id, ask.commentId);
  if (ask.kind === "take back comment")
    return { kind: ask.kind, was, why: ask.why, byLead: access.may("empty text") };
  const { body } = ask;
  const named = namedIn(body, body.includes("@") ? await nameableIn(tx, access.project.id) : []);
  return { kind: ask.kind, was, body, named };
}

async function closingOf(tx: Transaction, itemId: string) {
  const [row] = await tx.select().from(talkClosed).where(eq(talkClosed.itemId, itemId));
  return row?.closing ?? null;
}

/** @throws Refused when the item has no such comment */
async function commentNow(tx: Transaction, itemId: string, id: string): Promise<CommentNow> {
  const [row] = await tx
    .select()
    .from(comment)
    .where(and(eq(comment.itemId, itemId), eq(comment.id, id)));
  if (!row) throw notFound("comment");
  const { authorId, body, audience, goneAt } = row;
  return {
    commentId: id,
    authorId,
    body,
    sentOut: audience === "reporters",
    gone: goneAt !== null,
  };
}
