import { eq } from "drizzle-orm";
import { FAILURE_WORDS } from "@/core/ship/delivery-figures";
import type { ShipSettings } from "@/core/ship/ship-settings";
import { savedChange } from "@/core/workflow/design-change";
import { transact } from "@/db/connection";
import { project } from "@/db/schema";
import { enterProject, type ProjectRow } from "../people/access";
import type { Viewer } from "../people/viewer";
import { announceDesign } from "../workflow/announce";
import { keepDesignChange } from "../workflow/design-history";

/** How a project's work goes through its code hosts. */
export const shipSettingsOf = ({
  branchPattern,
  closingWords,
  branchDays,
  failures,
}: ProjectRow): ShipSettings => ({ branchPattern, closingWords, branchDays, failures });

/** Changes how it goes. Branches that there are keep their names. @throws Refused */
export async function editShipSettings(
  viewer: Viewer,
  projectKey: string,
  asked: Partial<ShipSettings>,
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const where = { key: projectKey };
    const access = await enterProject({ reader: tx, viewer, where, action: "edit workflow" });
    const row = access.project;
    const before = shipSettingsOf(row);
    const after = { ...before, ...asked };
    const change = savedChange(
      { area: "code", what: "how it goes through the code host" },
      told(before),
      told(after),
      TOLD,
    );
    if (change === null) return;
    await tx.update(project).set(after).where(eq(project.id, row.id));
    await keepDesignChange(tx, { projectId: row.id, byId: viewer.personId, at: now }, change);
    await announceDesign(tx, row.id, { kind: "project changed", data: {} });
  });
}

const told = ({ branchPattern, closingWords, branchDays, failures }: ShipSettings) => ({
  branchPattern,
  closingWords: closingWords.length > 0 ? closingWords.join(", ") : "none",
  branchDays: `after ${branchDays} days`,
  failures: failures.length > 0 ? failures.map((one) => FAILURE_WORDS[one]).join(", ") : "nothing",
});

const TOLD = {
  branchPattern: "names of branches",
  closingWords: "closing words",
  branchDays: "a branch is old",
  failures: "a deployment failed when",
} as const;
