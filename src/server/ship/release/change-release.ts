import { and, eq, isNull, ne } from "drizzle-orm";
import type { z } from "zod";
import { grouped } from "@/core/item/grouped";
import { finishingMove } from "@/core/ship/release/finishing-move";
import { notesMarkdown, type ReleaseNote } from "@/core/ship/release/release-notes";
import type { noteBody, OutBody, ReleasePage, Unfinished } from "@/core/ship/release/release-page";
import { plainChange } from "@/core/workflow/design-change";
import { transact, type Transaction } from "@/db/connection";
import { item, release, releaseNote } from "@/db/schema";
import { takeBackReleased, tellReleased } from "../../intake/released";
import { tellFollowersOf } from "../../alerts/tell-followers";
import { seesAnywhere, type ProjectAccess } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { invalid, notFound } from "../../refused";
import { announceDesign } from "../../workflow/announce";
import { keepDesignChange } from "../../workflow/design-history";
import { enterRelease, type OfRelease } from "./enter-release";
import { leavingBy, leavingFor, storeLeaving } from "./leaving";
import { readReleasePage } from "./read-release";

/** Says what the notes say of an item, or that they leave it out. @throws Refused */
export async function writeNote(
  viewer: Viewer,
  at: OfRelease,
  { itemId, words, internal }: z.output<typeof noteBody>,
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const { access } = await enterRelease(tx, viewer, at);
    const [found] = await tx
      .select({ id: item.id })
      .from(item)
      .where(and(eq(item.id, itemId), eq(item.releaseId, at.release), seesAnywhere(tx, viewer)));
    if (!found) throw notFound("item");
    const said = { words: words.trim(), internal, byId: viewer.personId, at: now };
    await tx
      .insert(releaseNote)
      .values({ releaseId: at.release, itemId, ...said })
      .onConflictDoUpdate({ target: [releaseNote.releaseId, releaseNote.itemId], set: said });
    await announceDesign(tx, access.project.id, { kind: "plan changed", data: {} });
  });
}

/**
 * Says that a release is out, with its notes as they are then; what is not finished goes where it is said, in
 * jobs that can be taken back. Or says that it is not out after all. @throws Refused
 */
export async function setOut(
  viewer: Viewer,
  at: OfRelease,
  body: OutBody,
  now = Date.now(),
): Promise<{ moving: number }> {
  // Whoever sends it out writes for those outside: what they may not see stands in no notes.
  const page = await readReleasePage(viewer, at.key, at.release, now);
  return transact(async (tx) => {
    const { access, row } = await enterRelease(tx, viewer, at);
    const isOut = row.releasedAt !== null;
    if (isOut === body.out) return { moving: 0 };
    const outNotes = body.out ? notesMarkdown(row.name, notesOut(page, body)) : null;
    await tx
      .update(release)
      .set({
        ...{ releasedAt: body.out ? now : null, outNotes },
        ...{ withdrawnAt: null, withdrawnWhy: null },
      })
      .where(eq(release.id, row.id));
    if (row.releasedAt !== null)
      await takeBackReleased(tx, { ...row, releasedAt: row.releasedAt }, now);
    else {
      await tellReleased(tx, row, now);
      const said = `It is out with ${row.name}`;
      await tellFollowersOf(tx, row.id, { said, byId: viewer.personId, now });
    }
    const projectId = access.project.id;
    await keepDesignChange(
      tx,
      { projectId, byId: viewer.personId, at: now },
      plainChange("sprints and releases", `said that ${row.name} is ${body.out ? "" : "not "}out`),
    );
    const moving = body.out ? await moveUnfinished(tx, viewer, access, { body, page, now }) : 0;
    await announceDesign(tx, projectId, { kind: "plan changed", data: {} });
    return { moving };
  });
}

/** The notes of what is finished, and of what is out too. */
function notesOut({ notes, rows }: ReleasePage, { unfinished, except }: OutBody): ReleaseNote[] {
  const goesToo = new Set(
    rows
      .filter(({ id, canFinish }) => canFinish && (except[id] ?? unfinished) === "is out too")
      .map(({ id }) => id),
  );
  return notes.filter((note) => note.finished || goesToo.has(note.itemId));
}

/** Jobs for what is not finished: what goes to another release or to none, and what is out too. */
async function moveUnfinished(
  tx: Transaction,
  viewer: Viewer,
  { project }: ProjectAccess,
  { body, page, now }: { body: OutBody; page: ReleasePage; now: number },
): Promise<number> {
  const open = await tx
    .select({ id: item.id, parentId: item.parentId, stateId: item.stateId })
    .from(item)
    .where(
      and(
        eq(item.releaseId, page.release!.id),
        eq(item.projectId, project.id),
        isNull(item.withdrawnAt),
        ne(item.stateKind, "finished"),
        seesAnywhere(tx, viewer),
      ),
    );
  // A task goes with what it stands under.
  const answerOf = ({ id, parentId }: (typeof open)[number]): Unfinished =>
    body.except[id] ?? body.except[parentId ?? ""] ?? body.unfinished;
  const answered = grouped(open, answerOf);
  if (answered.has("next release") && page.next === null)
    throw invalid("There is no release after this one.", "Make one first, or choose otherwise.");
  const jobs = [
    leavingFor(page.next?.id ?? null, answered.get("next release")),
    leavingFor(null, answered.get("no release")),
    // Where no move leads to the end an item stays.
    ...(await leavingBy(tx, project.id, answered.get("is out too") ?? [], {
      leadsTo: finishingMove,
      answers: { outcome: "delivered", comment: OUT_TOO },
    })),
  ];
  return storeLeaving(tx, jobs, {
    ...{ projectId: project.id, personId: viewer.personId, madeAt: now },
  });
}

/** For moves that ask for a word. */
const OUT_TOO = "It is out with its release.";
