import { v7 as newId } from "uuid";
import { acrossKey } from "@/core/across/place";
import { database } from "@/db/connection";
import { project } from "@/db/schema";
import { changeGroups } from "@/server/across/groups";
import { readBoard } from "@/server/board/read";
import type { Viewer } from "@/server/people/viewer";
import { p95, timed, type Row } from "./row";

/** A board above all projects beside that of one project, card for card. */
export async function boardAcross(viewer: Viewer): Promise<Row> {
  const rows = await database().select({ id: project.id }).from(project);
  const id = newId();
  const projectIds = rows.map((row) => row.id);
  await changeGroups(viewer, { kind: "make", id, name: "All of it", projectIds });
  const key = acrossKey({ kind: "group", id });
  const above = await readBoard(viewer, key, "stages");
  const one = await readBoard(viewer, "BIG1");
  await timed(5, () => readBoard(viewer, key, "stages"));
  const measured = p95(await timed(40, () => readBoard(viewer, key, "stages")));
  const alone = p95(await timed(40, () => readBoard(viewer, "BIG1")));
  const share = above.cards.length / one.cards.length;
  return {
    what: `open a board above ${projectIds.length} projects (${above.cards.length.toLocaleString("en")} cards), p95`,
    measured,
    yardstick: alone * share,
    against: `the board of one project with ${one.cards.length.toLocaleString("en")} cards, for as many`,
    reach: 1.5,
  };
}
