import { and, eq, exists, isNull, ne, notExists, or, sql, type SQL } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import { addressOf } from "@/core/contract/contract";
import { fileSize } from "@/core/formats/file-size";
import { pictureSize } from "@/core/formats/picture-size";
import { peopleContract } from "@/core/people/contract";
import { LARGEST_PICTURE, PICTURE_SIDE, type PictureAddresses } from "@/core/people/picture";
import { database, transact, type Reader } from "@/db/connection";
import { membership, person, personPicture, project } from "@/db/schema";
import { isPicture, mediaTypeOf } from "../files/kind";
import { keepFile, readKept } from "../files/store";
import type { ServedFile } from "../intake/files";
import { invalid, notFound } from "../refused";
import { visibleTo } from "./access";
import type { Viewer } from "./viewer";

/** People who work in a project that somebody may see, and themselves: who is with us still. */
function seesPerson(reader: Reader, viewer: Viewer): SQL {
  const together = reader
    .select({ one: sql`1` })
    .from(membership)
    .innerJoin(project, eq(project.id, membership.projectId))
    .where(and(eq(membership.personId, person.id), visibleTo(reader, viewer)));
  return and(
    isNull(person.endedAt),
    or(eq(person.id, viewer.personId), viewer.administrator ? sql`true` : exists(together)),
  )!;
}

/**
 * Where the pictures are of the people whom somebody may see, by their names. Of people who are called
 * the same none is: a picture must not stand at somebody else's name.
 */
export async function readPictures(viewer: Viewer): Promise<PictureAddresses> {
  const reader = database();
  const namesake = alias(person, "namesake");
  const namesakes = reader
    .select({ one: sql`1` })
    .from(namesake)
    .where(and(eq(namesake.name, person.name), ne(namesake.id, person.id)));
  const rows = await reader
    .select({ id: person.id, name: person.name, sha256: personPicture.sha256 })
    .from(personPicture)
    .innerJoin(person, eq(person.id, personPicture.personId))
    .where(and(seesPerson(reader, viewer), notExists(namesakes)));
  return Object.fromEntries(rows.map(({ id, name, sha256 }) => [name, pictureAddress(id, sha256)]));
}

/** Another picture has another address: what a browser has kept is never an old one. */
const pictureAddress = (id: string, sha256: string): string =>
  `${addressOf(peopleContract.picture, { params: { id } })}?v=${sha256.slice(0, 12)}`;

/** The picture of a person. @throws Refused where there is none that one may see */
export async function pictureOf(viewer: Viewer, personId: string): Promise<ServedFile> {
  const reader = database();
  const [row] = await reader
    .select({ picture: personPicture, name: person.name })
    .from(personPicture)
    .innerJoin(person, eq(person.id, personPicture.personId))
    .where(and(eq(person.id, personId.slice(0, 64)), seesPerson(reader, viewer)));
  const content = row ? await readKept(reader, row.picture.sha256) : null;
  if (!row || !content) throw notFound("picture");
  const { mediaType, sha256 } = row.picture;
  return { name: row.name, mediaType, sha256, content };
}

/** Sets one's own picture. @throws Refused where it is none, or not a small square */
export async function setPicture(viewer: Viewer, content: Buffer, now = Date.now()): Promise<void> {
  const mediaType = mediaTypeOf(content);
  const size = pictureSize(content);
  if (!mediaType || !isPicture(mediaType) || !size)
    throw invalid("This is no picture.", "Choose a PNG, a JPEG, a GIF or a WebP.");
  const { width, height } = size;
  if (width !== height || width < 1 || width > PICTURE_SIDE)
    throw invalid(
      `This picture has ${width} by ${height} pixels.`,
      `Send a square of at most ${PICTURE_SIDE} pixels a side; the page of your account makes one of any.`,
    );
  if (content.length > LARGEST_PICTURE)
    throw invalid(
      `This picture has ${fileSize(content.length)}.`,
      `Send one of at most ${fileSize(LARGEST_PICTURE)}.`,
    );
  await transact(async (tx) => {
    const sha256 = await keepFile(tx, content, now);
    const row = { sha256, mediaType, at: now };
    await tx
      .insert(personPicture)
      .values({ personId: viewer.personId, ...row })
      .onConflictDoUpdate({ target: personPicture.personId, set: row });
  });
}

/** Takes one's own picture away; where there is none nothing happens. */
export async function removePicture(viewer: Viewer): Promise<void> {
  await database().delete(personPicture).where(eq(personPicture.personId, viewer.personId));
}
