import { changesSinceAgreed } from "@/core/item/agreed";
import { ageOf } from "@/core/flow/age";
import { and, asc, eq, inArray, isNull } from "drizzle-orm";
import { cardOf } from "@/core/board/card";
import { agreementOf } from "@/core/item/agreement";
import { readiesOf } from "@/core/item/snapshot";
import { standingEvents } from "@/core/item/standing-events";
import { countedClock, finishedAgain } from "@/core/item/start-finish";
import { maskKeys } from "@/core/item/mask-keys";
import { eventWords, noteOf, type Names } from "@/core/item/words";
import type { EventOf, ItemEvent } from "@/core/item/event";
import { branchName, freeBranchName } from "@/core/ship/branch-name";
import { zigzag } from "@/core/flow/zigzag";
import { daysTouched } from "@/core/calendar/zone";
import { statesInOrder, transitionsFrom, stateOf } from "@/core/workflow/workflow";
import { database, type Reader } from "@/db/connection";
import { block, item, itemEvent, person, report, state, stay } from "@/db/schema";
import { enterProject, seesAnywhere, seesItem } from "../people/access";
import { roster } from "../people/roster";
import type { Viewer } from "../people/viewer";
import { knownAs } from "../intake/known";
import { promiseOf } from "../intake/promises";
import { notFound } from "../refused";
import { projectTypes } from "../workflow/load";
import { loadReleases, loadSprints } from "../plan/timeboxes";
import { readShown } from "../condition/shown";
import { loadOwnFields } from "./own-fields";
import { unseenBy } from "./agreed-seen";
import { hiddenKeys } from "./hidden-keys";
import { groundOf } from "../across/ground";
import { aroundItems } from "./list/around";
import { hasKeyAmong, keyColumn } from "./key";
import { filesOfReports } from "../intake/files";
import { readItemFiles } from "./read-files";
import { readLinks } from "./read-links";
import { historyOf } from "./history";
import { namesOf } from "./names";
import { readItemCode } from "../ship/read-item-code";
import { readItemTime } from "../time/item-time";
import { snapshotOf } from "./rows";
import { readTalk } from "../talk/read";
import { countsAgainst, readVotes } from "./votes";
import { withVisibleOther } from "./visible-others";
import type { ItemView } from "@/core/item/item-view";

/** Everything known of an item, by its key. */
export async function readItem(viewer: Viewer, key: string, now = Date.now()): Promise<ItemView> {
  const db = database();
  const [row] = await db
    .select()
    .from(item)
    .where(and(hasKeyAmong([key]), seesItem(db, viewer)));
  if (!row) throw notFound("item");
  const access = await enterProject({
    reader: db,
    viewer,
    where: { id: row.projectId },
    action: "read project",
    asked: "item",
  });
  const snapshot = await withVisibleOther(db, viewer, snapshotOf(row));
  const [
    types,
    people,
    history,
    actors,
    children,
    links,
    reports,
    files,
    reportFiles,
    stays,
    blocks,
    parent,
    sprints,
    releases,
    ownFields,
    votes,
    againstToo,
    known,
    around,
    time,
    code,
  ] = await Promise.all([
    projectTypes(db, access.project.id),
    roster(db, access.project.id),
    historyOf(db, row.id),
    db
      .selectDistinct({ id: person.id, name: person.name })
      .from(itemEvent)
      .innerJoin(person, eq(person.id, itemEvent.actorId))
      .where(eq(itemEvent.itemId, row.id)),
    db
      .select()
      .from(item)
      .where(and(eq(item.parentId, row.id), isNull(item.withdrawnAt), seesItem(db, viewer)))
      .orderBy(asc(item.rank)),
    readLinks(db, viewer, row.id),
    access.may("read intake")
      ? db
          .select({
            id: report.id,
            reference: report.reference,
            title: report.title,
            receivedAt: report.receivedAt,
            status: report.status,
          })
          .from(report)
          .where(eq(report.itemId, row.id))
          .orderBy(report.receivedAt)
      : [],
    readItemFiles(db, row.id),
    access.may("read intake") ? filesOfReports(db, row.id) : new Map<string, never[]>(),
    db.select().from(stay).where(eq(stay.itemId, row.id)).orderBy(stay.enteredSeq),
    db.select().from(block).where(eq(block.itemId, row.id)),
    row.parentId
      ? db
          .select({ key: keyColumn, title: item.title })
          .from(item)
          .where(and(eq(item.id, row.parentId), seesAnywhere(db, viewer)))
      : [],
    loadSprints(db, access.project.id),
    loadReleases(db, access.project.id),
    loadOwnFields(db, access.project.id),
    readVotes(db, viewer, [row.id]),
    countsAgainst(db, access.project.id),
    knownAs(row.id),
    aroundItems(db, viewer, groundOf(access), [row.id]),
    readItemTime(db, viewer, row.id),
    readItemCode(db, row, `${access.project.key}-${row.number}`),
  ]);
  const typeOf = (id: string) => types.types.find((t) => t.id === id)!;
  const workflowOfType = (id: string) =>
    types.workflows.find((w) => w.id === typeOf(id).workflowId)!;
  const workflow = workflowOfType(row.typeId);
  // States that were taken out since keep their name in the history.
  const states = await db
    .select({ id: state.id, name: state.name })
    .from(state)
    .where(
      inArray(
        state.workflowId,
        types.workflows.map((w) => w.id),
      ),
    );
  const shown = await readShown(db, [row.id], ownFields, (of) => seesItem(db, viewer, of));
  const lastWithdrawal = history.findLast((event) => event.kind === "withdrawn");
  const stateNames: Record<string, string> = Object.fromEntries(states.map((s) => [s.id, s.name]));
  const actorNames = new Map(actors.map(({ id, name }) => [id, name]));
  const actorOf = (event: ItemEvent) =>
    event.actorId === null ? "Zigzag Lane" : actorNames.get(event.actorId)!;
  const before = await namesElsewhere(db, history, access.project.id);
  for (const { stateId } of stays) stateNames[stateId] ??= before.state(stateId);
  const names = {
    state: (id: string) => stateNames[id] ?? before.state(id),
    person: (id: string) =>
      people.people.find((p) => p.id === id)?.name ?? actorNames.get(id) ?? "somebody",
    team: (id: string) => people.teams.find((t) => t.id === id)?.name ?? id,
    type: (id: string) => typeOf(id)?.name ?? id,
    sprint: (id: string) => sprints.find((s) => s.id === id)?.name ?? "a former sprint",
    release: (id: string) => releases.find((r) => r.id === id)?.name ?? "a former release",
    own: (id: string) => ownFields.find((f) => f.id === id) ?? before.own(id),
  };
  // What the product itself wrote about other items is told as far as the reader may see those;
  // what people wrote is theirs.
  const written = history
    .toReversed()
    .map((event) => ({ event, words: eventWords(event, names), note: noteOf(event) }));
  const hidden = await hiddenKeys(
    db,
    viewer,
    written.flatMap(({ words, note }) => [words, note ?? ""]),
  );
  const texts = [row.description, row.howToTest ?? ""];
  const talk = await readTalk(viewer, access, { itemId: row.id, history, texts });
  const intervals = {
    id: row.id,
    key,
    title: row.title,
    typeId: row.typeId,
    classOfService: row.classOfService,
    stays: stays.map((s) => ({
      stateId: s.stateId,
      kind: s.kind,
      outcome: s.outcome,
      from: s.enteredAt,
      to: s.leftAt,
    })),
    blocks: blocks.map((b) => ({ from: b.fromAt, to: b.liftedAt })),
    readies: readiesOf(history),
  };
  const agreed = changesSinceAgreed(history);
  const unseen = agreed ? await unseenBy(db, row, history) : [];
  const keyed = (n: number) => `${access.project.key}-${n}`;
  return {
    item: snapshot,
    card: cardOf(snapshot, access.project.key),
    key: keyed(row.number),
    project: {
      id: access.project.id,
      key: access.project.key,
      name: access.project.name,
      zone: access.project.zone,
    },
    state: { id: row.stateId, name: names.state(row.stateId) },
    transitions: transitionsFrom(workflow, row.stateId).map((t) => ({
      ...t,
      toName: stateOf(workflow, t.to).name,
    })),
    talk,
    me: viewer.personId,
    history: written.map(({ event, words, note }) => ({
      seq: event.seq,
      who: actorOf(event),
      whoId: event.actorId,
      words: maskKeys(words, hidden),
      note: note !== null && event.cause !== "person" ? maskKeys(note, hidden) : note,
      at: event.at,
      commandId: event.commandId,
      mine: event.actorId === viewer.personId,
      kind: event.kind,
    })),
    children: children.map((c) => ({
      id: c.id,
      key: keyed(c.number),
      title: c.title,
      stateName: names.state(c.stateId),
      finished: c.stateKind === "finished",
      card: cardOf(snapshotOf(c), access.project.key),
      finish:
        transitionsFrom(workflowOfType(c.typeId), c.stateId).find(
          (t) => stateOf(workflowOfType(c.typeId), t.to).kind === "finished",
        ) ?? null,
    })),
    agreed: agreed && {
      ...agreed,
      by: agreed.by.map(({ personId, changes }) => ({
        name: personId === null ? "Zigzag Lane" : actorNames.get(personId)!,
        changes,
      })),
      unseenBy: unseen.map((id) => ({ id, name: names.person(id) })),
      seq: row.version,
    },
    parent: parent[0] ?? null,
    links,
    waitsUnseen: around[row.id]?.waitsForUnseen ?? 0,
    reports: reports.map((one) => ({ ...one, files: reportFiles.get(one.id) ?? [] })),
    files,
    votes: votes(row.id),
    votesAgainst: againstToo,
    knownAs: known,
    zigzag: zigzag(
      intervals,
      row.withdrawnAt ?? now,
      standingEvents(history).flatMap((e) => (e.kind === "moved" && e.new.isReturn ? [e.at] : [])),
    ),
    arrivals: standingEvents(history).flatMap((e) =>
      e.kind === "reported" && e.new.kind === "deployed"
        ? [{ at: e.at, environment: e.new.environment }]
        : [],
    ),
    agreement: agreementOf(
      workflow,
      snapshot,
      { personId: viewer.personId, mayMove: access.may("move item") },
      names.person,
    ),
    stateNames,
    age: ageOf(countedClock(row), access.project.zone, now),
    againDays: finishedAgain(row) ? daysTouched(row.clock, access.project.zone, now) : null,
    ...people,
    types: types.types,
    workflowStates: Object.fromEntries(
      types.workflows.map((of) => [
        of.id,
        statesInOrder(of).map(({ id, name, kind }) => ({ id, name, kind })),
      ]),
    ),
    promise: await promiseOf(db, access.project, { itemId: row.id, now }),
    time,
    code: {
      ...code,
      branchName: freeBranchName(
        branchName(access.project.branchPattern, {
          person: viewer.name,
          key: keyed(row.number),
          typeName: names.type(row.typeId),
          title: row.title,
        }),
        code.works.map(({ branch }) => branch),
      ),
    },
    // Where the project plans without any, only the one that it is in.
    sprints: access.project.usesSprints ? sprints : sprints.filter(({ id }) => id === row.sprintId),
    releases: releases.map((one) =>
      one.withdrawnAt === null ? one : { ...one, name: `${one.name}, taken back` },
    ),
    ownFields,
    shown: shown.get(row.id) ?? {},
    withdrawn: withdrawnBy(row.withdrawnAt === null ? undefined : lastWithdrawal, {
      who: actorOf,
      words: (note) => maskKeys(note, hidden),
      may: access.may("withdraw item"),
    }),
    rights: {
      move: access.may("move item"),
      withdraw: access.may("withdraw item"),
      create: access.may("create item"),
      edit: access.may("edit item"),
      comment: access.may("comment item"),
      moderate: access.may("close talk"),
      block: access.may("block item"),
      overrideLimits: access.may("override limit"),
      judge: access.may("judge report"),
    },
    now,
  };
}

/** What things are called in the projects that an item was in before. */
async function namesElsewhere(
  reader: Reader,
  history: readonly ItemEvent[],
  projectId: string,
): Promise<Pick<Names, "state" | "own">> {
  const ids = history.flatMap((event) =>
    event.kind === "changed project" ? [event.old.projectId, event.new.projectId] : [],
  );
  const others = [...new Set(ids)].filter((id) => id !== projectId);
  if (others.length === 0) return { state: () => "a former state", own: () => undefined };
  const names = others.map(await namesOf(reader, others));
  return {
    state: names[0].state,
    own: (id) => names.map((one) => one.own(id)).find((field) => field !== undefined),
  };
}

/** Where an item is withdrawn: who did it and why. What was taken back with its cause stays so. */
function withdrawnBy(
  event: EventOf<"withdrawn"> | undefined,
  {
    who,
    words,
    may,
  }: { who: (event: ItemEvent) => string; words: (note: string) => string; may: boolean },
): ItemView["withdrawn"] {
  if (!event) return null;
  const { at, cause, note } = event;
  const why = cause === "person" ? note : words(note);
  return { who: who(event as ItemEvent), why, at, mayBringBack: may && cause !== "undo" };
}
