import { and, eq } from "drizzle-orm";
import type { PublicShowing } from "@/core/ship/acceptance/acceptance-view";
import { closedBecause } from "@/core/ship/acceptance/showing";
import type { AcceptanceBody } from "@/core/ship/acceptance/shown-item";
import { database, transact, type Reader } from "@/db/connection";
import { project, showing, shownPicture } from "@/db/schema";
import { readKept } from "../../files/store";
import type { ServedFile } from "../../intake/files";
import { notFound } from "../../refused";
import { saidOf, shownBy, type ShowingRow } from "./rows";
import { takeAnswer } from "./say";
import { isId } from "../../is-id";

const TOKEN = /^[A-Za-z0-9_-]{32}$/;

async function showingOf(reader: Reader, token: string): Promise<ShowingRow> {
  const [row] = TOKEN.test(token)
    ? await reader.select().from(showing).where(eq(showing.token, token))
    : [];
  if (!row) throw notFound("page");
  return row;
}

/** What is shown to somebody without an account. Reading it changes nothing. @throws Refused */
export async function readPublicShowing(token: string, now = Date.now()): Promise<PublicShowing> {
  const reader = database();
  const row = await showingOf(reader, token);
  const [of] = await reader.select().from(project).where(eq(project.id, row.projectId));
  const closed = of.putAwayAt !== null ? "over" : closedBecause(row, now);
  const { name, words, askedAt, until } = row;
  const page = {
    ...{ projectName: of.name, zone: of.zone, name, words, askedAt, until, closed, now },
  };
  // What was taken back says nothing any more.
  if (closed === "taken back") return { ...page, words: "", items: [] };
  const [shown, pictures] = await Promise.all([
    shownBy(reader, [row.id]),
    reader.select().from(shownPicture).where(eq(shownPicture.showingId, row.id)),
  ]);
  return {
    ...page,
    items: (shown.get(row.id) ?? []).map(({ row: one, answers, answered }) => ({
      ...{ itemId: one.itemId, title: one.title, how: one.how, address: one.address },
      ...{ tested: one.tested, answered, said: answers[0] ? saidOf(answers[0]) : null },
      pictures: pictures
        .filter(({ itemId }) => itemId === one.itemId)
        .map(({ id, name: called, width, height }) => ({ id, name: called, width, height })),
    })),
  };
}

/** Somebody without an account says that they accept it, or what is missing. @throws Refused */
export async function sayOutside(
  token: string,
  body: AcceptanceBody,
  now = Date.now(),
): Promise<PublicShowing> {
  await transact(async (tx) => {
    const { id } = await showingOf(tx, token);
    const [row] = await tx.select().from(showing).where(eq(showing.id, id)).for("update");
    await takeAnswer(tx, row, body, now);
  });
  return readPublicShowing(token, now);
}

/** A picture that is shown. @throws Refused where there is none such, or the page is not open */
export async function publicPicture(
  token: string,
  pictureId: string,
  now = Date.now(),
): Promise<ServedFile> {
  const reader = database();
  const row = await showingOf(reader, token);
  if (closedBecause(row, now) === "taken back") throw notFound("picture");
  return shownPictureOf(reader, row.id, pictureId);
}

export async function shownPictureOf(
  reader: Reader,
  showingId: string,
  pictureId: string,
): Promise<ServedFile> {
  const [row] = isId(pictureId)
    ? await reader
        .select()
        .from(shownPicture)
        .where(and(eq(shownPicture.id, pictureId), eq(shownPicture.showingId, showingId)))
    : [];
  const content = row ? await readKept(reader, row.sha256) : null;
  if (!row || !content) throw notFound("picture");
  const { name, mediaType, sha256 } = row;
  return { name, mediaType, sha256, content };
}
