import { eq } from "drizzle-orm";
import { savedChange } from "@/core/workflow/design-change";
import type { ProjectEdit } from "@/core/workflow/request";
import { transact } from "@/db/connection";
import { project } from "@/db/schema";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { announceDesign } from "./announce";
import { setFrom } from "./dated-settings";
import { keepDesignChange } from "./design-history";

/**
 * Changes what a project is called, who sees it, the zone in which its days are counted, and what it
 * expects of its items. The zone and the expectation hold from now on: what was counted by the ones
 * before stays as it was.
 */
export async function editProject(
  viewer: Viewer,
  projectKey: string,
  { name, visibility, zone, expectation }: ProjectEdit,
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const { project: before } = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: "edit workflow",
    });
    const { id } = before;
    const after = {
      name: name ?? before.name,
      visibility: visibility ?? before.visibility,
      zone: zone ?? before.zone,
      expectationDays: expectation?.days ?? before.expectationDays,
      expectationShare: expectation?.share ?? before.expectationShare,
    };
    const change = savedChange(
      { area: "project", what: "the project" },
      told(before),
      told(after),
      TOLD,
    );
    if (change === null) return;
    await tx.update(project).set(after).where(eq(project.id, id));
    if (after.zone !== before.zone)
      await setFrom(tx, id, { setting: "zone", value: after.zone, validFrom: now });
    if (expectation)
      await setFrom(tx, id, { setting: "expectation", value: expectation, validFrom: now });
    await keepDesignChange(tx, { projectId: id, byId: viewer.personId, at: now }, change);
    await announceDesign(tx, id, { kind: "project changed", data: {} });
  });
}

interface Settings {
  name: string;
  visibility: "everyone" | "members";
  zone: string;
  expectationDays: number;
  expectationShare: number;
}

const told = ({ name, visibility, zone, expectationDays, expectationShare }: Settings) => ({
  name,
  visibility: visibility === "everyone" ? "everybody with an account" : "its people",
  zone,
  expectation: `${Math.round(expectationShare * 100)} % within ${expectationDays} days`,
});

const TOLD = {
  name: "name",
  visibility: "who sees it",
  zone: "time zone",
  expectation: "expectation",
} as const;
