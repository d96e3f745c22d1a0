import { eq } from "drizzle-orm";
import { plainChange } from "@/core/workflow/design-change";
import { transact } from "@/db/connection";
import { project } from "@/db/schema";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { announceDesign } from "./announce";
import { keepDesignChange } from "./design-history";

/**
 * Puts a project away, or brings it back. While it is away it stands in no list, everybody who could
 * read it still can, and nothing of it changes: no rule moves anything, no form and no address takes
 * anything in.
 */
export async function putProjectAway(
  viewer: Viewer,
  projectKey: string,
  away: boolean,
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const { project: before } = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: "put away project",
    });
    if ((before.putAwayAt !== null) === away) return;
    await tx
      .update(project)
      .set({ putAwayAt: away ? now : null, putAwayBy: away ? viewer.personId : null })
      .where(eq(project.id, before.id));
    await keepDesignChange(
      tx,
      { projectId: before.id, byId: viewer.personId, at: now },
      plainChange("project", away ? "put the project away" : "brought the project back"),
    );
    await announceDesign(tx, before.id, { kind: "project changed", data: {} });
  });
}
