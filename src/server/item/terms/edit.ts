import { and, asc, eq, sql } from "drizzle-orm";
import { isSameTerm } from "@/core/item/terms/current-name";
import type { TermEdit } from "@/core/item/terms/edit";
import { STARTING_LABELS } from "@/core/item/terms/starting-set";
import { MOST_TERMS, TERM_WORDS, type Term, type TermKind } from "@/core/item/terms/term";
import { termNamed } from "@/core/item/terms/view";
import { differencesOf, type DesignChange } from "@/core/workflow/design-change";
import { counted } from "@/core/formats/counted";
import { transact, type Transaction } from "@/db/connection";
import { person, projectTerm, workflow } from "@/db/schema";
import { enterProject } from "../../people/access";
import { checkMembers } from "../../people/belonging";
import type { Viewer } from "../../people/viewer";
import { invalid } from "../../refused";
import { announceDesign } from "../../workflow/announce";
import { keepDesignChange } from "../../workflow/design-history";
import { stopMoves } from "../../workflow/move-lock";
import { loadTerms } from "./load";
import { renameEverywhere } from "./rename";

/** What an edit works with: the words of the project as they are. */
interface Editing {
  tx: Transaction;
  projectId: string;
  byId: string;
  now: number;
  terms: readonly Term[];
}

/**
 * Describes, renames, merges, retires or brings back a word of a project: a label, or a part of its
 * product.
 * @throws Refused where a name is taken, or there is no such word
 */
export async function editTerms(
  viewer: Viewer,
  projectKey: string,
  edit: TermEdit,
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const { project } = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: "edit workflow",
    });
    const projectId = project.id;
    if (edit.kind === "rename" || edit.kind === "merge") await stopItems(tx, projectId);
    // Two leads who name something at the same time must not both find the name free.
    await tx.execute(
      sql`select pg_advisory_xact_lock(hashtextextended('terms ' || ${projectId}, 0))`,
    );
    const terms = await loadTerms(tx, projectId);
    const editing: Editing = { tx, projectId, byId: viewer.personId, now, terms };
    const change = await changed(editing, edit);
    if (change === null) return;
    await keepDesignChange(tx, { projectId, byId: viewer.personId, at: now }, change);
    await announceDesign(tx, projectId, { kind: "terms changed", data: {} });
  });
}

/** Lets nobody do anything to an item of a project until the transaction ends. */
async function stopItems(tx: Transaction, projectId: string): Promise<void> {
  const rows = await tx
    .select({ id: workflow.id })
    .from(workflow)
    .where(eq(workflow.projectId, projectId))
    .orderBy(asc(workflow.id));
  for (const { id } of rows) await stopMoves(tx, id);
}

/** Does what is asked. @returns what to tell of it; null where nothing is different */
function changed(editing: Editing, edit: TermEdit): Promise<DesignChange | null> {
  switch (edit.kind) {
    case "describe":
      return describe(editing, edit);
    case "rename":
      return rename(editing, edit);
    case "merge":
      return merge(editing, edit);
    case "end":
    case "bring back":
      return setEnded(editing, edit);
    case "begin with":
      return beginWith(editing);
  }
}

const told = (said: string, differences: DesignChange["differences"] = []): DesignChange => ({
  area: "labels and parts",
  said,
  differences,
});

const named = (kind: TermKind, name: string) => `the ${TERM_WORDS[kind].one} “${name}”`;

async function put({ tx, projectId, terms }: Editing, term: Term): Promise<void> {
  const isNew = !terms.some(({ kind, name }) => kind === term.kind && name === term.name);
  if (isNew && terms.length >= MOST_TERMS)
    throw invalid(
      `A project describes at most ${MOST_TERMS} labels and parts.`,
      "Merge some of them first.",
    );
  const row = { projectId, ...term, earlier: [...term.earlier], places: [...term.places] };
  await tx
    .insert(projectTerm)
    .values(row)
    .onConflictDoUpdate({
      target: [projectTerm.projectId, projectTerm.kind, projectTerm.name],
      set: row,
    });
}

/** Another word that people would take for this one, or that was called so. */
function twinOf({ terms }: Editing, kind: TermKind, name: string, besides: string) {
  const own = terms.filter((term) => term.kind === kind && term.name !== besides);
  return (
    own.find((term) => isSameTerm(term.name, name)) ??
    own.find(({ earlier }) => earlier.some((was) => isSameTerm(was, name)))
  );
}

const DESCRIBED = {
  meaning: "what it means",
  sign: "sign",
  hue: "colour",
  places: "places that belong to it",
} as const;

async function describe(
  editing: Editing,
  { of, name, kind: _, ...said }: Extract<TermEdit, { kind: "describe" }>,
): Promise<DesignChange | null> {
  const isNew = !editing.terms.some((term) => term.kind === of && term.name === name);
  const twin = isNew ? twinOf(editing, of, name, name) : undefined;
  if (twin)
    throw invalid(
      twin.name === name || isSameTerm(twin.name, name)
        ? `There is ${named(of, twin.name)} already.`
        : `“${name}” is what ${named(of, twin.name)} was called before.`,
      "Choose another name.",
    );
  const before = termNamed(editing.terms, of, name);
  const given = Object.fromEntries(Object.entries(said).filter(([, value]) => value !== undefined));
  const after: Term = { ...before, ...given };
  if (after.ownerId !== before.ownerId)
    await checkMembers(editing.tx, editing.projectId, [after.ownerId]);
  await put(editing, after);
  const differences = [
    ...differencesOf(isNew ? null : before, after, DESCRIBED),
    ...(await ownerDifference(editing, before.ownerId, after.ownerId)),
  ];
  if (!isNew && differences.length === 0) return null;
  return told(`${isNew ? "described" : "changed"} ${named(of, name)}`, differences);
}

async function ownerDifference(
  { tx }: Editing,
  before: string | null,
  after: string | null,
): Promise<DesignChange["differences"]> {
  if (before === after) return [];
  const people = await tx.select({ id: person.id, name: person.name }).from(person);
  const nameOf = (id: string | null) => people.find((one) => one.id === id)?.name ?? null;
  return [{ what: "who looks after it", old: nameOf(before), new: nameOf(after) }];
}

async function rename(
  editing: Editing,
  { of, name, to }: Extract<TermEdit, { kind: "rename" }>,
): Promise<DesignChange | null> {
  if (name === to) return null;
  const twin = twinOf(editing, of, to, name);
  if (twin)
    throw invalid(
      isSameTerm(twin.name, to)
        ? `There is ${named(of, twin.name)} already.`
        : `“${to}” is what ${named(of, twin.name)} was called before.`,
      "Choose another name, or merge the two.",
    );
  const items = await callOtherwise(editing, termNamed(editing.terms, of, name), to);
  return told(`renamed ${named(of, name)} to “${to}”, on ${counted(items, "item")}`);
}

/** A word with another name: whoever says the old one means it still. */
async function callOtherwise(editing: Editing, term: Term, to: string): Promise<number> {
  const { tx, projectId, byId, now: at } = editing;
  const { kind, name: from } = term;
  await tx.delete(projectTerm).where(rowOf(editing, kind, from));
  const earlier = [...term.earlier, from].filter((was) => was !== to);
  await put(editing, { ...term, name: to, earlier });
  return renameEverywhere(tx, { projectId, kind, from, to, at, byId });
}

const rowOf = ({ projectId }: Editing, kind: TermKind, name: string) =>
  and(eq(projectTerm.projectId, projectId), eq(projectTerm.kind, kind), eq(projectTerm.name, name));

async function merge(
  editing: Editing,
  { of, name, into }: Extract<TermEdit, { kind: "merge" }>,
): Promise<DesignChange | null> {
  const { tx, projectId, byId, now: at } = editing;
  if (name === into) throw invalid("Both are the same.", "Choose another one to merge it into.");
  const [going, staying] = [termNamed(editing.terms, of, name), termNamed(editing.terms, of, into)];
  if (staying.endedAt !== null)
    throw invalid(
      `${named(of, into)} is not used any more.`,
      "Bring it back first, or merge the two the other way round.",
    );
  await tx.delete(projectTerm).where(rowOf(editing, of, name));
  await put(editing, {
    ...staying,
    earlier: [...new Set([...staying.earlier, ...going.earlier, name])],
    places: [...new Set([...staying.places, ...going.places])],
  });
  const items = await renameEverywhere(tx, { projectId, kind: of, from: name, to: into, at, byId });
  return told(`merged ${named(of, name)} into “${into}”, on ${counted(items, "item")}`);
}

async function setEnded(
  editing: Editing,
  { kind, of, name }: Extract<TermEdit, { kind: "end" | "bring back" }>,
): Promise<DesignChange | null> {
  const before = termNamed(editing.terms, of, name);
  const ends = kind === "end";
  if ((before.endedAt !== null) === ends) return null;
  await put(editing, { ...before, endedAt: ends ? editing.now : null });
  return told(`${ends ? "retired" : "brought back"} ${named(of, name)}`);
}

async function beginWith(editing: Editing): Promise<DesignChange | null> {
  const fresh = STARTING_LABELS.filter(
    ({ kind, name }) => twinOf(editing, kind, name, "") === undefined,
  );
  for (const term of fresh) await put(editing, term);
  return fresh.length === 0
    ? null
    : told(`began with the labels ${fresh.map(({ name }) => `“${name}”`).join(", ")}`);
}
