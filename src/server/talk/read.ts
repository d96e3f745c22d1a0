import { and, asc, eq } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import { keysIn } from "@/core/item/key";
import { maskKeys } from "@/core/item/mask-keys";
import type { ItemEvent } from "@/core/item/event";
import { COMMENT_SIGNS } from "@/core/talk/comment";
import type { AskedPerson, NamedItem, Talk, TalkComment } from "@/core/talk/talk-view";
import { numberedSpots } from "@/core/talk/spot";
import { threadOf } from "@/core/talk/threads";
import { database } from "@/db/connection";
import { comment, commentSign, itemLook, person, report, talkClosed, walkNote } from "@/db/schema";
import { followingOf } from "../alerts/follow";
import { hiddenKeys } from "../item/hidden-keys";
import { namedByKeys } from "../item/list/named";
import { fileNamesAt } from "../item/read-files";
import { nameableIn } from "../item/talk";
import { commitsNamed } from "../ship/commits-named";
import type { ProjectAccess } from "../people/access";
import type { Viewer } from "../people/viewer";

/** Whoever does what was agreed on, and whoever took a comment back. */
const agreedOwner = alias(person, "agreed_owner");
const goneBy = alias(person, "gone_by_person");

/** Comments with all that stands beside them, the first one first. */
const rowsOf = (itemId: string) =>
  database()
    .select({
      comment,
      author: person.name,
      agreedId: walkNote.id,
      owner: agreedOwner.name,
      dueOn: walkNote.dueOn,
      goneBy: goneBy.name,
    })
    .from(comment)
    .leftJoin(person, eq(person.id, comment.authorId))
    .leftJoin(goneBy, eq(goneBy.id, comment.goneBy))
    .leftJoin(
      walkNote,
      and(eq(walkNote.itemId, comment.itemId), eq(walkNote.commentId, comment.id)),
    )
    .leftJoin(agreedOwner, eq(agreedOwner.id, walkNote.ownerId))
    .where(eq(comment.itemId, itemId))
    .orderBy(asc(comment.at), asc(comment.id));

type Row = Awaited<ReturnType<typeof rowsOf>>[number];

/**
 * The talk about an item, as its reader may see it: what was taken back is not told, and what the
 * product itself wrote names no item that the reader may not see.
 */
export async function readTalk(
  viewer: Viewer,
  access: ProjectAccess,
  { itemId, history, texts }: { itemId: string; history: readonly ItemEvent[]; texts: string[] },
): Promise<Talk> {
  const db = database();
  const [rows, signs, [closed], [look], nameable, reporters, following] = await Promise.all([
    rowsOf(itemId),
    signsOf(itemId),
    db.select().from(talkClosed).where(eq(talkClosed.itemId, itemId)),
    db
      .select()
      .from(itemLook)
      .where(and(eq(itemLook.itemId, itemId), eq(itemLook.personId, viewer.personId))),
    nameableIn(db, access.project.id),
    access.may("read intake") ? reporterMails(itemId) : [],
    followingOf(db, viewer, itemId),
  ]);
  const causes = new Map(
    history.flatMap((event) =>
      event.kind === "commented" ? [[event.new.commentId, event.cause] as const] : [],
    ),
  );
  const byProduct = (row: Row) => (causes.get(row.comment.id) ?? "person") !== "person";
  const hidden = await hiddenKeys(
    db,
    viewer,
    rows.filter(byProduct).map((row) => row.comment.body),
  );
  // Several of one moment stand as they were said.
  const seqOf = new Map(
    history.flatMap((event) =>
      event.kind === "commented" ? [[event.new.commentId, event.seq] as const] : [],
    ),
  );
  const placeOf = ({ comment: { id } }: Row) => seqOf.get(id) ?? 0;
  rows.sort((a, b) => a.comment.at - b.comment.at || placeOf(a) - placeOf(b));
  const answersTo = new Map(rows.map((row) => [row.comment.id, row.comment.answersId]));
  const files = rows.some((row) => row.comment.spot) ? await fileNamesAt(db, itemId) : null;
  const spots = numberedSpots(
    rows.filter((row) => row.comment.goneAt === null).map((row) => row.comment),
    (id) => files?.get(id) ?? null,
  );
  const comments = rows.map((row): TalkComment => {
    const { id, authorId, body, at, audience, goneAt, whyGone } = row.comment;
    return {
      id,
      authorId,
      author: row.author ?? (causes.get(id) === "requester" ? "The requester" : "The process"),
      body: byProduct(row) ? maskKeys(body, hidden) : body,
      at,
      threadId: threadOf(id, (one) => answersTo.get(one)),
      audience,
      asks: askedIn(row, rows, nameable),
      earlier: goneAt === null ? earlierTexts(history, id) : [],
      gone: goneAt === null ? null : { by: row.goneBy ?? "somebody", at: goneAt, why: whyGone },
      signs: signsBelow(
        signs.filter((one) => one.commentId === id),
        viewer,
      ),
      spot: spots.get(row.comment) ?? null,
      agreed: row.agreedId === null ? null : { owner: row.owner, dueOn: row.dueOn },
    };
  });
  const all = [...texts, ...comments.map(({ body }) => body)];
  const [items, commits] = await Promise.all([
    itemsNamed(viewer, all),
    commitsNamed(db, viewer, access.project.id, all),
  ]);
  return {
    comments,
    closed: closed?.closing ?? null,
    lookedAt: look?.at ?? null,
    nameable,
    items,
    commits,
    reporters,
    following,
  };
}

const signsOf = (itemId: string) =>
  database()
    .select({
      commentId: commentSign.commentId,
      sign: commentSign.sign,
      personId: commentSign.personId,
      name: person.name,
    })
    .from(commentSign)
    .innerJoin(person, eq(person.id, commentSign.personId))
    .where(eq(commentSign.itemId, itemId))
    .orderBy(asc(commentSign.at));

function signsBelow(
  signs: Awaited<ReturnType<typeof signsOf>>,
  viewer: Viewer,
): TalkComment["signs"] {
  return COMMENT_SIGNS.flatMap((sign) => {
    const own = signs.filter((one) => one.sign === sign);
    if (own.length === 0) return [];
    const mine = own.some(({ personId }) => personId === viewer.personId);
    return [{ sign, people: own.map(({ name }) => name), mine }];
  });
}

/** Each who is asked; somebody has answered who wrote in the thread since. */
function askedIn(row: Row, rows: readonly Row[], people: Talk["nameable"]): AskedPerson[] {
  const { id, asks, at, answersId } = row.comment;
  const thread = answersId ?? id;
  return asks.map((asked) => ({
    id: asked,
    name: people.find((one) => one.kind === "person" && one.id === asked)?.name ?? "somebody",
    answered: rows.some(
      ({ comment: later }) =>
        later.authorId === asked &&
        later.goneAt === null &&
        later.at > at &&
        (later.answersId === id || later.answersId === thread),
    ),
  }));
}

/** What a comment said before it was changed. */
const earlierTexts = (history: readonly ItemEvent[], id: string): TalkComment["earlier"] =>
  history.flatMap((event) =>
    event.kind === "comment edited" && event.new.commentId === id
      ? [{ body: event.old.body, until: event.at }]
      : [],
  );

/** Addresses of those who reported the item, each once. */
async function reporterMails(itemId: string): Promise<string[]> {
  const rows = await database()
    .selectDistinct({ mail: report.mail })
    .from(report)
    .where(eq(report.itemId, itemId));
  return rows.map(({ mail }) => mail).filter((mail) => mail !== "");
}

/** Of so many keys in texts it is looked up what they are. */
const MOST_NAMED = 100;

/** Items that texts name by their keys, as far as a person may see them. */
async function itemsNamed(
  viewer: Viewer,
  texts: readonly string[],
): Promise<Record<string, NamedItem>> {
  const keys = [...new Set(texts.flatMap(keysIn))].slice(0, MOST_NAMED);
  if (keys.length === 0) return {};
  const items = await namedByKeys(viewer, keys);
  return Object.fromEntries(
    [...items.values()].map(({ key, title, stateName, assignee, stateKind }) => {
      const named = { key, title, stateName, assignee, finished: stateKind === "finished" };
      return [key, named];
    }),
  );
}
