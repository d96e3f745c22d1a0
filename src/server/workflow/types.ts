import { and, eq, inArray, isNull } from "drizzle-orm";
import type { ItemType } from "@/core/item/item-type";
import { plainChange, savedChange, type DesignChange } from "@/core/workflow/design-change";
import type { Workflow } from "@/core/workflow/workflow";
import type { StateId } from "@/core/workflow/state";
import { transact, type Transaction } from "@/db/connection";
import { item, itemType, project } from "@/db/schema";
import { allThroughDoor } from "../item/door";
import type { Errand } from "../item/errand";
import { snapshotOf } from "../item/rows";
import { enterProject, type ProjectAccess } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid, notFound } from "../refused";
import { showUnshown } from "../board/show-states";
import { announceDesign } from "./announce";
import { keepDesignChange } from "./design-history";
import { loadProjectWorkflows, projectTypes } from "./load";
import { stopMoves } from "./move-lock";
import { v7 as newId } from "uuid";
import type { TypeEdit } from "@/core/workflow/request";

const MOST_TYPES = 40;

/**
 * Makes, changes, orders, takes out or brings back an item type. Items of a type that is taken out
 * keep it; nothing new can be made of it. A type that is given to another workflow takes its items
 * along, into the states chosen for them, and the board shows those states from then on.
 */
export async function editType(
  viewer: Viewer,
  projectKey: string,
  edit: TypeEdit,
  now = Date.now(),
): Promise<{ movedItems: number }> {
  return transact(async (tx) => {
    const access = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: "edit workflow",
    });
    const projectId = access.project.id;
    const { types, workflows } = await projectTypes(tx, projectId);
    let movedItems = 0;
    if (edit.kind === "order") {
      for (const [position, typeId] of edit.ids.entries())
        await tx
          .update(itemType)
          .set({ position })
          .where(and(eq(itemType.id, typeId), eq(itemType.projectId, projectId)));
    } else if (edit.kind === "name levels") {
      await tx.update(project).set({ levelNames: edit.names }).where(eq(project.id, projectId));
    } else if (edit.kind === "save") {
      movedItems = await saveType({ tx, viewer, access, edit, types, workflows });
    } else {
      const type = types.find((t) => t.id === edit.id);
      if (!type) throw notFound("item type");
      const others = types.filter((t) => t.removedAt === null && t.id !== type.id);
      if (edit.kind === "remove" && !others.some((t) => t.level >= 1))
        throw invalid("It is the last type that stands on its own.", "Make another one first.");
      await tx
        .update(itemType)
        .set({ removedAt: edit.kind === "remove" ? now : null })
        .where(and(eq(itemType.id, type.id), eq(itemType.projectId, projectId)));
    }
    await keepDesignChange(
      tx,
      { projectId, byId: viewer.personId, at: now },
      changeOf(edit, { types, workflows, levels: access.project.levelNames }),
    );
    await announceDesign(tx, projectId, { kind: "item types changed", data: { movedItems } });
    return { movedItems };
  });
}

/** What an edit changes, in words; null where that is nothing that anybody looks for. */
function changeOf(
  edit: TypeEdit,
  {
    types,
    workflows,
    levels,
  }: { types: readonly ItemType[]; workflows: readonly Workflow[]; levels: readonly string[] },
): DesignChange | null {
  switch (edit.kind) {
    case "order":
      return null;
    case "name levels":
      return savedChange(
        { area: "types", what: "what the levels are called" },
        { levels },
        { levels: edit.names },
        { levels: "levels" },
      );
    case "save": {
      const told = ({
        name,
        level,
        glyph,
        template,
        workflowId,
      }: Pick<ItemType, "name" | "level" | "glyph" | "template" | "workflowId">) => ({
        name,
        level: levels[level],
        glyph,
        template: template.slice(0, 200),
        workflow: workflows.find((w) => w.id === workflowId)?.name ?? null,
      });
      const before = types.find((type) => type.id === edit.type.id);
      const about = { area: "types", what: `the type “${edit.type.name}”` } as const;
      return savedChange(about, before ? told(before) : null, told(edit.type), TYPE_WORDS);
    }
    case "remove":
    case "bring back": {
      const name = types.find((type) => type.id === edit.id)?.name ?? "";
      const did = edit.kind === "remove" ? "took out" : "brought back";
      return plainChange("types", `${did} the type “${name}”`);
    }
  }
}

const TYPE_WORDS = {
  name: "name",
  level: "level",
  glyph: "sign",
  template: "starting text",
  workflow: "process",
} as const;

async function saveType({
  tx,
  viewer,
  access,
  edit: { type, newStates },
  types,
  workflows,
}: {
  tx: Transaction;
  viewer: Viewer;
  access: ProjectAccess;
  edit: Extract<TypeEdit, { kind: "save" }>;
  types: readonly ItemType[];
  workflows: readonly Workflow[];
}): Promise<number> {
  const projectId = access.project.id;
  const before = types.find((t) => t.id === type.id);
  const twin = types.find(
    (t) =>
      t.id !== type.id && t.removedAt === null && t.name.toLowerCase() === type.name.toLowerCase(),
  );
  if (twin) throw invalid(`There is a type “${twin.name}” already.`, "Choose another name.");
  if (!before && types.length >= MOST_TYPES)
    throw invalid(`A project has at most ${MOST_TYPES} types.`, "Use one that is there.");
  const to = await projectWorkflow(tx, projectId, type.workflowId);
  if (!to) throw invalid("This project has no such workflow.", "Choose one of its workflows.");
  const position = before?.position ?? Math.max(-1, ...types.map((t) => t.position)) + 1;
  if (!before) {
    await tx.insert(itemType).values({ ...type, projectId, position });
    if (type.level >= 1) await showUnshown(tx, projectId, to);
    return 0;
  }
  if (before.workflowId === type.workflowId) {
    await tx
      .update(itemType)
      .set(type)
      .where(and(eq(itemType.id, type.id), eq(itemType.projectId, projectId)));
    return 0;
  }
  // Nobody moves an item by the old workflow while its type goes to the new one. In the order of
  // ids, as every publish takes them.
  for (const workflowId of [before.workflowId, type.workflowId].sort())
    await stopMoves(tx, workflowId);
  await tx
    .update(itemType)
    .set(type)
    .where(and(eq(itemType.id, type.id), eq(itemType.projectId, projectId)));
  if (type.level >= 1) await showUnshown(tx, projectId, to);
  return takeAlong({
    tx,
    viewer,
    access,
    typeId: type.id,
    from: workflows.find((w) => w.id === before.workflowId)!,
    to,
    newStates,
  });
}

async function projectWorkflow(
  tx: Transaction,
  projectId: string,
  workflowId: string,
): Promise<Workflow | undefined> {
  return (await loadProjectWorkflows(tx, projectId)).find((w) => w.id === workflowId);
}

/** Items of a type enter the states of its new workflow; their history says why. */
async function takeAlong({
  tx,
  viewer,
  access,
  typeId,
  from,
  to,
  newStates,
}: {
  tx: Transaction;
  viewer: Viewer;
  access: ProjectAccess;
  typeId: string;
  from: Workflow;
  to: Workflow;
  newStates: Readonly<Record<StateId, StateId>>;
}): Promise<number> {
  const rows = await tx
    .select()
    .from(item)
    .where(
      and(
        eq(item.projectId, access.project.id),
        eq(item.typeId, typeId),
        isNull(item.withdrawnAt),
        inArray(
          item.stateId,
          from.states.map((s) => s.id),
        ),
      ),
    )
    .orderBy(item.id)
    .for("update");
  const note = `Its type follows the workflow “${to.name}” now.`;
  const errands: Errand[] = [];
  for (const snapshot of rows.map(snapshotOf)) {
    const target = newStates[snapshot.stateId];
    if (!target || !to.states.some((s) => s.id === target)) {
      const n = rows.filter((r) => r.stateId === snapshot.stateId).length;
      const name = from.states.find((s) => s.id === snapshot.stateId)?.name ?? "a state";
      throw invalid(
        `${n === 1 ? "1 item is" : `${n} items are`} in ${name}, which the other workflow does not have.`,
        "Choose the state they go to.",
      );
    }
    errands.push({
      on: { itemId: snapshot.id, access, workflow: to, before: snapshot },
      commandId: newId(),
      ask: { kind: "prepared", command: { kind: "place in state", to: target, note } },
      made: { cause: "workflow change" },
    });
  }
  await allThroughDoor(tx, viewer, errands);
  return rows.length;
}
