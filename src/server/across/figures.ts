import type { Figures } from "@/core/flow/summary";
import { database } from "@/db/connection";
import { flowSummary } from "../flow/read";
import type { Viewer } from "../people/viewer";
import { enterGround } from "./ground";

/** What the items of a place above the projects are drawn with: the pace of each project. */
export async function readFigures(viewer: Viewer, key: string): Promise<Figures> {
  const { projects } = await enterGround(database(), viewer, key, "read flow");
  const summaries = await Promise.all(projects.map((access) => flowSummary(access, viewer)));
  return { paces: Object.assign({}, ...summaries.map(({ paces }) => paces)), ladder: {} };
}
