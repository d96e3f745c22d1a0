import { and, eq } from "drizzle-orm";
import type { AcceptanceBody } from "@/core/ship/acceptance/shown-item";
import { database, transact, type Reader } from "@/db/connection";
import { showing } from "@/db/schema";
import type { ServedFile } from "../../intake/files";
import { enterProject } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { notFound } from "../../refused";
import { shownPictureOf } from "./private-showing";
import type { ShowingRow } from "./rows";
import { takeAnswer } from "./say";
import { isId } from "../../is-id";

/** What is shown to somebody with an account. */
interface OfShowing {
  /** Of the project. */
  key: string;
  showing: string;
}

/** @throws Refused where it is not shown to them */
async function ownShowing(
  reader: Reader,
  viewer: Viewer,
  { key, showing: id }: OfShowing,
): Promise<ShowingRow> {
  const access = await enterProject({
    ...{ reader, viewer, where: { key }, action: "read project" },
  });
  const [row] = isId(id)
    ? await reader
        .select()
        .from(showing)
        .where(and(eq(showing.id, id), eq(showing.projectId, access.project.id)))
    : [];
  if (!row || row.personId !== viewer.personId) throw notFound("page");
  return row;
}

/** Somebody with an account says that they accept what is shown to them, or what is missing. @throws Refused */
export async function sayInside(
  viewer: Viewer,
  at: OfShowing,
  body: AcceptanceBody,
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const { id } = await ownShowing(tx, viewer, at);
    const [row] = await tx.select().from(showing).where(eq(showing.id, id)).for("update");
    await takeAnswer(tx, row, { ...body, name: viewer.name }, now);
  });
}

/** A picture that is shown to somebody with an account. @throws Refused */
export async function ownPicture(
  viewer: Viewer,
  at: OfShowing,
  pictureId: string,
): Promise<ServedFile> {
  const reader = database();
  const { id } = await ownShowing(reader, viewer, at);
  return shownPictureOf(reader, id, pictureId);
}
