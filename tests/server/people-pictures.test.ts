import { eq } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import { LARGEST_PICTURE } from "@/core/people/picture";
import { database } from "@/db/connection";
import { person, storedFile } from "@/db/schema";
import { Drawing } from "@demo/picture";
import { sweepFiles } from "@/server/files/store";
import { pictureOf, readPictures, removePicture, setPicture } from "@/server/people/pictures";
import { refusalOf } from "./setup/board";
import { ARTHUR, GRETA, INES, OSKAR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const drawn = (width: number, height = width) => new Drawing(width, height, [9, 90, 90]).png();
const addressOf = async (viewer: typeof INES, name = "Ines Dahl") =>
  (await readPictures(viewer))[name];
const kept = () => database().$count(storedFile);

test("a picture is shown to whoever works in a project with its person, and has an address of its own", async () => {
  expect(await addressOf(INES)).toBeUndefined();
  await setPicture(INES, drawn(64));
  const first = await addressOf(INES);
  expect(first).toMatch(/^\/api\/people\/ines\/picture\?v=[0-9a-f]{12}$/);
  expect(await addressOf(ARTHUR)).toBe(first);
  expect((await pictureOf(OSKAR, "ines")).content).toEqual(drawn(64));
  await setPicture(INES, drawn(32));
  expect(await addressOf(INES)).not.toBe(first);
  await removePicture(INES);
  expect(await addressOf(INES)).toBeUndefined();
  expect(await refusalOf(pictureOf(INES, "ines"))).toBe("not found");
});

test("whoever shares no project sees none, but their own; nor of whoever has left", async () => {
  await setPicture(INES, drawn(64));
  await database().insert(person).values({ id: "guest", name: "A Guest", email: "g@x.example" });
  const guest = { personId: "guest", name: "A Guest", administrator: false };
  await setPicture(guest, drawn(16));
  const seen = Object.keys(await readPictures(guest));
  expect(seen).toContain("A Guest");
  expect(await addressOf(OSKAR, "A Guest")).toBeUndefined();
  expect(await refusalOf(pictureOf(OSKAR, "guest"))).toBe("not found");
  expect(await addressOf(GRETA, "A Guest")).toBeDefined();
  await database().update(person).set({ endedAt: 1 }).where(eq(person.id, "guest"));
  expect(await addressOf(GRETA, "A Guest")).toBeUndefined();
});

test("people who are called the same have none: it would stand at the other's name too", async () => {
  await setPicture(INES, drawn(64));
  expect(await addressOf(INES)).toBeDefined();
  await database()
    .insert(person)
    .values({ id: "ines-2", name: "Ines Dahl", email: "ines2@x.example" });
  expect(await addressOf(INES)).toBeUndefined();
  await database().delete(person).where(eq(person.id, "ines-2"));
  expect(await addressOf(INES)).toBeDefined();
});

test("what is no picture, no square, too large or a bomb is refused in words; nothing is kept of it", async () => {
  const before = await kept();
  const bomb = drawn(8);
  bomb.writeUInt32BE(60_000, 16);
  bomb.writeUInt32BE(60_000, 20);
  const heavy = Buffer.concat([drawn(8), Buffer.alloc(LARGEST_PICTURE)]);
  for (const content of [Buffer.from("<svg/>"), drawn(64, 32), drawn(257), bomb, heavy])
    expect(await refusalOf(setPicture(INES, content))).toBe("invalid");
  expect(await kept()).toBe(before);
});

test("no sweep takes a picture that somebody has; one that was taken away goes in time", async () => {
  await setPicture(INES, drawn(48));
  await sweepFiles(Date.now() + 2 * DAY);
  expect((await pictureOf(INES, "ines")).content).toEqual(drawn(48));
  await removePicture(INES);
  const before = await kept();
  await sweepFiles(Date.now() + 4 * DAY);
  expect(await kept()).toBeLessThan(before);
});
