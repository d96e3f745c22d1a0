import { and, asc, eq, inArray, isNull, notInArray } from "drizzle-orm";
import type { z } from "zod";
import type { Instant } from "@/core/calendar/instant";
import { shortDate } from "@/core/calendar/day-words";
import { grouped } from "@/core/item/grouped";
import type { environmentsBody, Environment } from "@/core/ship/environment";
import { savedChange } from "@/core/workflow/design-change";
import { transact, type Reader, type Transaction } from "@/db/connection";
import { environment, freezeWindow, project } from "@/db/schema";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { announceDesign } from "../workflow/announce";
import { keepDesignChange } from "../workflow/design-history";

/** The environments of a project, in their order. */
export async function environmentsOf(reader: Reader, projectId: string): Promise<Environment[]> {
  const rows = await reader
    .select()
    .from(environment)
    .where(and(eq(environment.projectId, projectId), isNull(environment.retiredAt)))
    .orderBy(asc(environment.position));
  const freezes = await reader
    .select()
    .from(freezeWindow)
    .where(
      and(
        inArray(
          freezeWindow.environmentId,
          rows.map(({ id }) => id),
        ),
        isNull(freezeWindow.removedAt),
      ),
    )
    .orderBy(asc(freezeWindow.from));
  const ofThem = grouped(freezes, ({ environmentId }) => environmentId);
  return rows.map(({ id, name, address, live }) => ({
    ...{ id, name, address, live },
    freezes: (ofThem.get(id) ?? []).map((one) => ({
      ...{ id: one.id, from: one.from, until: one.until, why: one.why },
    })),
  }));
}

/**
 * Says which environments a project has, in place of all that it had. What is not among them is
 * retired: what was deployed there stays known. @throws Refused
 */
export async function editEnvironments(
  viewer: Viewer,
  projectKey: string,
  { environments: asked }: z.infer<typeof environmentsBody>,
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const where = { key: projectKey };
    const access = await enterProject({ reader: tx, viewer, where, action: "edit workflow" });
    const { id: projectId } = access.project;
    await tx.select().from(project).where(eq(project.id, projectId)).for("update");
    const before = await environmentsOf(tx, projectId);
    await mustBeOwn(tx, projectId, asked);
    await retireOthers(tx, projectId, { kept: asked, now });
    for (const [position, { freezes, ...one }] of asked.entries()) {
      const row = { ...one, projectId, position, retiredAt: null };
      await tx
        .insert(environment)
        .values(row)
        .onConflictDoUpdate({ target: environment.id, set: row });
      await storeFreezes(tx, one.id, { freezes, by: viewer.personId, now });
    }
    const change = savedChange(
      { area: "code", what: "its environments" },
      told(before),
      told(asked),
      TOLD,
    );
    if (change === null) return;
    await keepDesignChange(tx, { projectId, byId: viewer.personId, at: now }, change);
    await announceDesign(tx, projectId, { kind: "project changed", data: {} });
  });
}

/** What is named belongs to no other project, and freezes to no other environment. */
async function mustBeOwn(
  tx: Transaction,
  projectId: string,
  asked: readonly Environment[],
): Promise<void> {
  const rows = await tx
    .select()
    .from(environment)
    .where(
      inArray(
        environment.id,
        asked.map(({ id }) => id),
      ),
    );
  if (rows.some((row) => row.projectId !== projectId)) throw notFound("environment");
  const of = new Map(asked.flatMap(({ id, freezes }) => freezes.map((one) => [one.id, id])));
  const freezes = await tx
    .select()
    .from(freezeWindow)
    .where(inArray(freezeWindow.id, [...of.keys()]));
  if (freezes.some((one) => of.get(one.id) !== one.environmentId)) throw notFound("freeze");
}

/** Before the others are stored: one may take the name that another had. */
async function retireOthers(
  tx: Transaction,
  projectId: string,
  { kept, now }: { kept: readonly Environment[]; now: Instant },
): Promise<void> {
  const ids = kept.map(({ id }) => id);
  const ofProject = eq(environment.projectId, projectId);
  await tx
    .update(environment)
    .set({ retiredAt: now })
    .where(
      and(
        ofProject,
        isNull(environment.retiredAt),
        ids.length > 0 ? notInArray(environment.id, ids) : undefined,
      ),
    );
  // Two that change their names with each other would stand in each other's way.
  for (const id of ids)
    await tx
      .update(environment)
      .set({ name: id })
      .where(and(ofProject, eq(environment.id, id)));
}

async function storeFreezes(
  tx: Transaction,
  environmentId: string,
  { freezes, by, now }: { freezes: Environment["freezes"]; by: string; now: Instant },
): Promise<void> {
  const ids = freezes.map(({ id }) => id);
  const others = ids.length > 0 ? notInArray(freezeWindow.id, ids) : undefined;
  await tx
    .update(freezeWindow)
    .set({ removedAt: now })
    .where(
      and(eq(freezeWindow.environmentId, environmentId), isNull(freezeWindow.removedAt), others),
    );
  for (const one of freezes)
    await tx
      .insert(freezeWindow)
      .values({ ...one, environmentId, setBy: by, setAt: now })
      .onConflictDoUpdate({ target: freezeWindow.id, set: { ...one, removedAt: null } });
}

const told = (environments: readonly Environment[]) => ({
  names:
    environments.map(({ name, live }) => (live ? `${name} (live)` : name)).join(", ") || "none",
  addresses:
    environments
      .flatMap(({ name, address }) => (address === "" ? [] : `${name} at ${address}`))
      .join(", ") || "none",
  freezes:
    environments
      .flatMap(({ name, freezes }) =>
        freezes.map(({ from, until }) => `${name} ${shortDate(from)} to ${shortDate(until)}`),
      )
      .join(", ") || "none",
});

const TOLD = {
  names: "which there are",
  addresses: "where they are",
  freezes: "frozen",
} as const;
