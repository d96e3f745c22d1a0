import { and, eq, isNull } from "drizzle-orm";
import { fileSize } from "@/core/formats/file-size";
import { isDrawable, pictureSize } from "@/core/formats/picture-size";
import { LARGEST_ITEM_FILE } from "@/core/item/item-file";
import { database, transact } from "@/db/connection";
import { testPicture } from "@/db/schema";
import { cleanName, isPicture, mediaTypeOf } from "../../files/kind";
import { keepFile, readKept } from "../../files/store";
import type { ServedFile } from "../../intake/files";
import { enterProject } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { invalid, notFound } from "../../refused";
import { announceTests } from "./announce-tests";
import { enterRun, runNumbered, stepOfRun, type Numbered } from "./runs";
import { isId } from "../../is-id";

const MOST_PICTURES = 12;

/** A picture as it is sent: nothing about it is believed but its bytes. */
export interface SentPicture {
  id: string;
  caseId: string;
  stepId: string;
  name: string;
  content: Buffer;
}

/** Puts a picture to a step of a run. @throws Refused */
export async function addTestPicture(
  viewer: Viewer,
  at: Numbered,
  { id, caseId, stepId, name: called, content }: SentPicture,
  now = Date.now(),
): Promise<void> {
  const name = cleanName(called);
  const mediaType = mediaTypeOf(content);
  if (!mediaType || !isPicture(mediaType))
    throw invalid(`${name} is no picture.`, "Choose a PNG, a JPEG, a GIF or a WebP.");
  if (content.length > LARGEST_ITEM_FILE)
    throw invalid(
      `${name} has ${fileSize(content.length)}.`,
      `Choose one of at most ${fileSize(LARGEST_ITEM_FILE)}.`,
    );
  await transact(async (tx) => {
    const { access, run } = await enterRun(tx, viewer, at);
    await stepOfRun(tx, run, { caseId, stepId });
    const there = await tx
      .select()
      .from(testPicture)
      .where(
        and(
          eq(testPicture.runId, run.id),
          eq(testPicture.caseId, caseId),
          eq(testPicture.stepId, stepId),
          isNull(testPicture.removedAt),
        ),
      );
    if (there.some((one) => one.id === id)) return;
    if (there.length >= MOST_PICTURES)
      throw invalid(`A step has at most ${MOST_PICTURES} pictures.`, "Take one off first.");
    const size = pictureSize(content);
    const drawn = isDrawable(size) ? size : null;
    const sha256 = await keepFile(tx, content, now);
    await tx.insert(testPicture).values({
      ...{ id, runId: run.id, caseId, stepId, name, mediaType, sha256, size: content.length },
      ...{ width: drawn?.width ?? null, height: drawn?.height ?? null },
      ...{ byId: viewer.personId, at: now },
    });
    await announceTests(tx, access.project.id, { itemIds: [run.itemId], now });
  });
}

/** A picture of a run, for whoever may read its project. @throws Refused */
export async function testPictureFor(
  viewer: Viewer,
  { key, number }: Numbered,
  pictureId: string,
): Promise<ServedFile> {
  const reader = database();
  const where = { key };
  const { project } = await enterProject({ reader, viewer, where, action: "read project" });
  const run = await runNumbered(reader, viewer, project.id, number);
  const [row] = isId(pictureId)
    ? await reader
        .select()
        .from(testPicture)
        .where(
          and(
            eq(testPicture.id, pictureId),
            eq(testPicture.runId, run.id),
            isNull(testPicture.removedAt),
          ),
        )
    : [];
  const content = row ? await readKept(reader, row.sha256) : null;
  if (!row || !content) throw notFound("picture");
  const { name, mediaType, sha256 } = row;
  return { name, mediaType, sha256, content };
}

/** Takes a picture off a step of a run that is under way. @throws Refused */
export async function removeTestPicture(
  viewer: Viewer,
  at: Numbered,
  pictureId: string,
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const { access, run } = await enterRun(tx, viewer, at);
    const gone = isId(pictureId)
      ? await tx
          .update(testPicture)
          .set({ removedAt: now })
          .where(and(eq(testPicture.id, pictureId), eq(testPicture.runId, run.id)))
          .returning()
      : [];
    if (gone.length === 0) throw notFound("picture");
    await announceTests(tx, access.project.id, { itemIds: [run.itemId], now });
  });
}
