import { sql } from "drizzle-orm";
import { v7 as newId } from "uuid";
import { database } from "@/db/connection";
import type { Viewer } from "@/server/people/viewer";
import { editTimebox } from "@/server/plan/timeboxes";
import { readReleasePage } from "@/server/ship/release/read-release";
import { median, timed, type Row } from "./row";

const LARGE = 2_000;
const SMALL = 50;

/** The page of a release with many items, beside that of one with few in a project that is as large. */
export async function releasePage(viewer: Viewer): Promise<Row> {
  const large = await makeRelease(viewer, "BIG5", LARGE);
  const small = await makeRelease(viewer, "BIG6", SMALL);
  const read = (key: string, id: string) => async () => {
    const { release } = await readReleasePage(viewer, key, id);
    if (release?.id !== id) throw new Error(`${key} does not show its release`);
  };
  await timed(3, read("BIG5", large));
  await timed(3, read("BIG6", small));
  return {
    what: `the page of a release of ${LARGE.toLocaleString("en")} items, median`,
    measured: median(await timed(20, read("BIG5", large))),
    yardstick: median(await timed(20, read("BIG6", small))),
    against: `the same of ${SMALL}`,
    reach: 1.5,
  };
}

/** A release that is to come, of the latest items of a project: with its open ones, and with what is live. */
async function makeRelease(viewer: Viewer, key: string, items: number): Promise<string> {
  const id = newId();
  const dueOn = new Date(Date.now() + 7 * 86_400_000).toISOString().slice(0, 10);
  const release = { id, name: "Next", dueOn, released: false, why: "" };
  await editTimebox(viewer, key, { kind: "release", release });
  await database().execute(sql`
    update item set release_id = ${id} where id in (
      select i.id from item i join project p on p.id = i.project_id
      where p.key = ${key} order by i.number desc limit ${items})`);
  await database().execute(sql`analyze item`);
  return id;
}
