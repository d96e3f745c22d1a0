import { and, eq, ne } from "drizzle-orm";
import type { ItemCommand } from "@/core/item/command";
import type { InProject } from "@/core/item/event";
import type { EditableFields, ItemSnapshot } from "@/core/item/fields";
import type { ItemType } from "@/core/item/item-type";
import { isDerived, mustBeSaid, type OwnField, type OwnValues } from "@/core/item/own-field";
import {
  fieldsLost,
  likeliestState,
  likeliestType,
  ownElsewhere,
  standingStates,
  type ElsewhereView,
  type ProjectChangeQuery,
  type ProjectChangeView,
  type ProjectOffer,
} from "@/core/item/project-change";
import type { CommandRequest } from "@/core/item/request";
import { replay } from "@/core/item/snapshot";
import { TERM_FIELDS, TERM_KINDS } from "@/core/item/terms/term";
import { statesInOrder, stateOf, type Workflow } from "@/core/workflow/workflow";
import { database, type Reader, type Transaction } from "@/db/connection";
import { itemKey, project } from "@/db/schema";
import { accessibleProjects, enterProject } from "../people/access";
import { membersAmong } from "../people/belonging";
import { roster } from "../people/roster";
import type { Principal, Viewer } from "../people/viewer";
import { takesItems } from "../plan/timeboxes";
import { invalid } from "../refused";
import { projectTypes } from "../workflow/load";
import { idsUnder, parentNow } from "./around";
import { seeByKey } from "./by-key";
import { takeNumber } from "./key";
import { workflowOf, type EnteredItem } from "./enter";
import { historyOf } from "./history";
import { initialOwn, loadOwnFields } from "./own-fields";
import { withAgreedTerms } from "./terms/agreed";
import { loadTerms } from "./terms/load";

type Asked = Extract<CommandRequest, { kind: "change project" }>;

/**
 * A move to another project, with all that has to be otherwise there.
 * @param byPerson whether somebody can be asked for what its type there must say
 * @throws Refused where they may make nothing there, or the type or state does not fit
 */
export async function changingProject(
  tx: Transaction,
  by: Principal,
  entered: EnteredItem,
  asked: Asked & { byPerson: boolean },
): Promise<ItemCommand> {
  const { before, access } = entered;
  const there = await enterProject({
    reader: tx,
    viewer: by,
    where: { key: asked.projectKey },
    action: "create item",
  });
  const to = there.project;
  const fits = await fittingIn(tx, entered, to.id, asked);
  const workflow = await workflowOf(tx, to.id, fits.type.id);
  const parent = await parentNow(tx, before);
  const goesAlong = parent?.projectId === to.id;
  if (goesAlong) refuseNoSmaller(fits, parent.typeId);
  const from = await loadOwnFields(tx, access.project.id);
  const offer = await offerOf(tx, before, from, to.id);
  const own = ownElsewhere(before.own, from, offer, fits.type.id).own;
  return {
    kind: "change project",
    was: placeOf(before, access.project),
    becomes: { projectId: to.id, ...(await keyIn(tx, before.id, to)) },
    projectName: to.name,
    to: stateIn(workflow, fits.stateId, before).id,
    fields: {
      ...(fits.type.id === before.typeId ? {} : { typeId: fits.type.id }),
      ...fieldsLost(before, offer),
      ...(await termsIn(tx, before, to.id)),
    },
    own: await initialOwn({
      reader: tx,
      projectId: to.id,
      fields: offer.ownFields,
      typeId: fits.type.id,
      given: { ...own, ...asked.own },
      asksRequired: asked.byPerson,
    }),
    leaves: parent && !goesAlong ? { parentId: parent.id, key: parent.key } : null,
  };
}

/** Where an item could go, and what that would mean for it. @throws Refused */
export async function readElsewhere(
  viewer: Viewer,
  key: string,
  { to, type }: ProjectChangeQuery,
): Promise<ElsewhereView> {
  const db = database();
  const entered = await seeByKey(db, viewer, key, "edit item");
  const others = await accessibleProjects(db, viewer, ne(project.id, entered.access.project.id));
  return {
    projects: others
      .filter(({ may }) => may("create item"))
      .map((of) => ({ key: of.project.key, name: of.project.name })),
    change:
      to === undefined ? null : await forecast(db, viewer, entered, { to, type: type ?? null }),
  };
}

async function forecast(
  db: Reader,
  viewer: Viewer,
  entered: EnteredItem,
  { to: projectKey, type: typeId }: { to: string; type: string | null },
): Promise<ProjectChangeView> {
  const { before, access } = entered;
  const where = { key: projectKey };
  const { project: to } = await enterProject({ reader: db, viewer, where, action: "create item" });
  const fits = await fittingIn(db, entered, to.id, { typeId, stateId: null });
  const from = await loadOwnFields(db, access.project.id);
  const offer = await offerOf(db, before, from, to.id);
  const { own, lost } = ownElsewhere(before.own, from, offer, fits.type.id);
  const { people } = await roster(db, to.id);
  return {
    project: { key: to.key, name: to.name },
    types: fits.offered.map((type) => ({
      id: type.id,
      name: type.name,
      states: fits.statesOf(type).map(({ id, name }) => ({ id, name })),
    })),
    typeId: fits.type.id,
    stateId: fits.stateId,
    lost: [...lostWords(before, offer), ...lost],
    below: (await idsUnder(db, before.id)).length,
    asked: askedThere(offer.ownFields, own, fits.type.id),
    people: people.map(({ id, name }) => ({ id, name })),
  };
}

const placeOf = ({ projectId, number }: ItemSnapshot, { key }: { key: string }): InProject => ({
  projectId,
  number,
  key: `${key}-${number}`,
});

/** Fields that must say something there, and say nothing by themselves. */
const askedThere = (fields: readonly OwnField[], own: OwnValues, typeId: string): OwnField[] =>
  fields.filter(
    (field) =>
      field.removedAt === null &&
      !isDerived(field.kind) &&
      mustBeSaid(field, typeId) &&
      own[field.id] === undefined &&
      field.initial === null,
  );

/** What of its fields it leaves, in words. */
function lostWords(before: ItemSnapshot, offer: ProjectOffer): string[] {
  const lost = fieldsLost(before, offer);
  return [
    ...("assigneeId" in lost ? ["its assignee, who does not belong there"] : []),
    ...("reviewerId" in lost ? ["its reviewer, who does not belong there"] : []),
    ...("sprintId" in lost ? ["its sprint"] : []),
    ...("releaseId" in lost ? ["its release"] : []),
    ...(before.parentId === null ? [] : ["what it stands under"]),
  ];
}

interface Fits {
  type: ItemType;
  stateId: string;
  /** All types there. */
  types: ItemType[];
  /** Those of its level that are in use. */
  offered: ItemType[];
  statesOf: (type: ItemType) => { id: string; name: string }[];
}

/** The type and the state that were asked for, or those that fit best. @throws Refused */
async function fittingIn(
  reader: Reader,
  { before, access, workflow }: EnteredItem,
  projectId: string,
  asked: { typeId: string | null; stateId: string | null },
): Promise<Fits> {
  const here = await projectTypes(reader, access.project.id);
  const there = await projectTypes(reader, projectId);
  const is = here.types.find(({ id }) => id === before.typeId)!;
  const offered = there.types.filter(
    ({ removedAt, level }) => removedAt === null && level === is.level,
  );
  const type =
    asked.typeId === null
      ? likeliestType(is, there.types)
      : (offered.find(({ id }) => id === asked.typeId) ?? null);
  if (!type)
    throw invalid(
      `That project has no type of item for what is a ${is.name.toLocaleLowerCase("en")} here.`,
      "Choose another project, or let a lead there make a type of the same level.",
    );
  const workflows = new Map(there.workflows.map((of) => [of.id, statesInOrder(of)]));
  const was = stateOf(workflow, before.stateId);
  const statesOf = (of: ItemType) =>
    standingStates(before.stateKind, workflows.get(of.workflowId) ?? []);
  const likeliest = likeliestState(was, workflows.get(type.workflowId) ?? []);
  const stateId = asked.stateId ?? likeliest?.id;
  if (!stateId)
    throw invalid(
      `Nothing in that project stands as it does in ${was.name}.`,
      "Move it on or back first.",
    );
  return { type, stateId, types: there.types, offered, statesOf };
}

/** A state of the workflow there. @throws Refused where it has none such */
function stateIn(workflow: Workflow, stateId: string, before: ItemSnapshot) {
  const found = workflow.states.find(({ id }) => id === stateId);
  if (!found || !standingStates(before.stateKind, [found]).includes(found))
    throw invalid(
      "The workflow there has no such state for it.",
      "Say in which of its states the item is then.",
    );
  return found;
}

function refuseNoSmaller({ type, types }: Fits, parentTypeId: string): void {
  const above = types.find(({ id }) => id === parentTypeId);
  if (above && above.level <= type.level)
    throw invalid(
      `What stands under it would be no smaller there: a ${type.name.toLocaleLowerCase("en")}.`,
      "Choose a larger type for it, or put what stands under it somewhere else first.",
    );
}

/** What a project offers an item of another one. */
async function offerOf(
  reader: Reader,
  before: ItemSnapshot,
  from: readonly OwnField[],
  projectId: string,
): Promise<ProjectOffer> {
  const people = new Set(
    from.flatMap(({ id, kind }) =>
      kind === "person" && typeof before.own[id] === "string" ? [before.own[id] as string] : [],
    ),
  );
  for (const id of [before.assigneeId, before.reviewerId]) if (id !== null) people.add(id);
  const timeboxes = new Set<string>();
  const named = { sprint: before.sprintId, release: before.releaseId };
  for (const box of ["sprint", "release"] as const) {
    const id = named[box];
    if (id !== null && (await takesItems(reader, box, id, projectId))) timeboxes.add(id);
  }
  return {
    ownFields: await loadOwnFields(reader, projectId),
    members: await membersAmong(reader, projectId, [...people]),
    timeboxes,
  };
}

/**
 * Labels and parts as they are called there. What the history says of them by itself may be a former
 * word of the project that the item leaves, which nobody there knows: then it says them once more.
 */
async function termsIn(
  tx: Transaction,
  before: ItemSnapshot,
  projectId: string,
): Promise<Partial<EditableFields>> {
  const { labels, parts } = before;
  const there = await withAgreedTerms(() => loadTerms(tx, projectId), { labels, parts }, null);
  const told = replay(await historyOf(tx, before.id));
  return Object.fromEntries(
    TERM_KINDS.map((kind) => TERM_FIELDS[kind]).flatMap((field) =>
      JSON.stringify(told[field]) === JSON.stringify(there[field]) ? [] : [[field, there[field]]],
    ),
  );
}

/** The number that it had there before, or the project's next one. */
async function keyIn(
  tx: Transaction,
  itemId: string,
  { id, key }: { id: string; key: string },
): Promise<{ number: number; key: string }> {
  const [known] = await tx
    .select({ number: itemKey.number })
    .from(itemKey)
    .where(and(eq(itemKey.itemId, itemId), eq(itemKey.prefix, key)))
    .limit(1);
  if (known) return { number: known.number, key: `${key}-${known.number}` };
  const number = await takeNumber(tx, id);
  await tx.insert(itemKey).values({ prefix: key, number, itemId, since: Date.now() });
  return { number, key: `${key}-${number}` };
}
