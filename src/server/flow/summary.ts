import { database } from "@/db/connection";
import { unjudgedCount } from "../intake/desk";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { flowSummary } from "./read";
import type { ProjectSummary } from "@/core/flow/summary";

/**
 * What the frame of every project page shows: the pulse, and how many reports wait for a verdict.
 */
export async function readSummary(viewer: Viewer, projectKey: string): Promise<ProjectSummary> {
  const access = await enterProject({
    reader: database(),
    viewer,
    where: { key: projectKey },
    action: "read flow",
  });
  const [summary, unjudged] = await Promise.all([
    flowSummary(access, viewer),
    access.may("read intake") ? unjudgedCount(access.project.id) : 0,
  ]);
  return { ...summary, unjudged, seesAll: access.may("override limit") };
}
