import { eq } from "drizzle-orm";
import { lengthWords, type PlanSettings } from "@/core/plan/plan-settings";
import { stepsAsText } from "@/core/plan/size-scale";
import { savedChange } from "@/core/workflow/design-change";
import { database, transact } from "@/db/connection";
import { project } from "@/db/schema";
import { enterProject, type ProjectRow } from "../people/access";
import type { Viewer } from "../people/viewer";
import { announceDesign } from "../workflow/announce";
import { setFrom } from "../workflow/dated-settings";
import { keepDesignChange } from "../workflow/design-history";

/** How a project plans. */
export const planSettingsOf = ({
  usesSprints,
  sprintDays,
  newIntoSprint,
  sizeScale,
}: ProjectRow): PlanSettings => ({ usesSprints, sprintDays, newIntoSprint, sizeScale });

/** Which places of Plan there are in a project for somebody. @throws Refused */
export async function readPlanPlaces(
  viewer: Viewer,
  projectKey: string,
): Promise<{ sprints: boolean; withdrawn: boolean }> {
  const access = await enter(viewer, projectKey);
  return { sprints: access.project.usesSprints, withdrawn: access.may("read withdrawn") };
}

/** How a project plans, and whether somebody may change that. @throws Refused */
export async function readHowItPlans(viewer: Viewer, projectKey: string) {
  const { project: of, may } = await enter(viewer, projectKey);
  return {
    projectKey: of.key,
    projectName: of.name,
    settings: planSettingsOf(of),
    maySwitch: may("edit workflow"),
  };
}

const enter = (viewer: Viewer, key: string) =>
  enterProject({ reader: database(), viewer, where: { key }, action: "read project" });

/**
 * Changes how a project plans. Where it does without sprints from now on, those that it has stay, with
 * all that is in them, and are there again once it plans in sprints again.
 */
export async function editPlanSettings(
  viewer: Viewer,
  projectKey: string,
  asked: Partial<PlanSettings>,
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const { project: row } = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: "edit workflow",
    });
    const before = planSettingsOf(row);
    const after = { ...before, ...asked };
    const change = savedChange(
      { area: "sprints and releases", what: "how it plans" },
      told(before),
      told(after),
      TOLD,
    );
    if (change === null) return;
    await tx.update(project).set(after).where(eq(project.id, row.id));
    if (asked.sizeScale) {
      await setFrom(tx, row.id, { setting: "sizes", value: before.sizeScale, validFrom: 0 });
      await setFrom(tx, row.id, { setting: "sizes", value: after.sizeScale, validFrom: now });
    }
    await keepDesignChange(tx, { projectId: row.id, byId: viewer.personId, at: now }, change);
    await announceDesign(tx, row.id, { kind: "plan changed", data: {} });
  });
}

const told = ({ usesSprints, sprintDays, newIntoSprint, sizeScale }: PlanSettings) => ({
  usesSprints: usesSprints ? "in sprints" : "without sprints",
  sprintDays: lengthWords(sprintDays),
  newIntoSprint: newIntoSprint ? "into the sprint that runs" : "into the backlog",
  sizeScale: `${sizeScale.kind}: ${stepsAsText(sizeScale)}`,
});

const TOLD = {
  usesSprints: "plans",
  sprintDays: "length of a sprint",
  newIntoSprint: "new items go",
  sizeScale: "sizes",
} as const;
