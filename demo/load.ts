import { randomBytes } from "node:crypto";
import { FIRST_TYPES } from "@/core/item/item-type";
import { demoBoards } from "./boards";
import { demoConditions, demoViews, DEMO_OPENED } from "./views";
import { demoAddresses, demoAnswers, demoAround, demoForms, demoKnown, demoMail } from "./intake";
import { loadAcceptance, withAcceptance } from "./acceptance";
import { demoVersions, type DemoVersion } from "./versions";
import { LARGE_TYPES, LARGE_WORKFLOW, LEVEL_NAMES } from "./large-workflow";
import { demoFields } from "./fields";
import { demoRules, demoWorth } from "./worth";
import { demoSizing } from "./sizing";
import { demoReleaseDates, demoReleases, demoSprints, howSprintsEnded } from "./plans";
import { hashPassword } from "better-auth/crypto";
import { eq } from "drizzle-orm";
import { DAY, HOUR, type Instant } from "@/core/calendar/instant";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { seededRandom } from "@/core/forecast/random";
import { UNJUDGED, type ReportStanding } from "@/core/intake/report";
import { standingOf, type ReportEvent } from "@/core/intake/report-history";
import { receipt, reportEventRow } from "@/server/intake/store";
import { flowRows } from "@/server/item/flow-rows";
import { NOBODY_NAMED } from "@/core/talk/comment";
import { newAcceptance } from "@/core/intake/acceptance";
import type { Verdict } from "@/core/intake/verdict";
import { flowRecord } from "@/core/item/flow-record";
import { compareRanks, ranksBetween } from "@/core/item/rank";
import { EMPTY_VOCABULARY } from "@/core/condition/vocabulary";
import { differences } from "@/core/workflow/difference";
import { proposeColumns } from "@/core/board/propose-columns";
import { fromTemplate } from "@/core/workflow/template";
import { BUILD_REVIEW_TEST_DEPLOY } from "@/core/workflow/templates/build-review-test-deploy";
import { SUB_TASKS } from "@/core/workflow/templates/sub-tasks";
import type { Workflow } from "@/core/workflow/workflow";
import { database, type Transaction } from "@/db/connection";
import * as table from "@/db/schema";
import { ownerOfLimit, setLimit } from "@/server/board/limits";
import { withBreaks } from "./breaks";
import { DEMO_PERSON_LIMITS, demoBoardLimits, demoCellLimits, withExpectedStays } from "./limits";
import { EVER } from "@/server/intake/rules";
import { setFrom } from "@/server/workflow/dated-settings";
import { keepDesignChange } from "@/server/workflow/design-history";
import { eventRows } from "@/server/item/rows";
import { beginWorld, nobodyYet } from "@/server/people/installation";
import { projectHistory, type DemoItem } from "./history";
import { uuidSource } from "./ids";
import { inChunks } from "./in-chunks";
import { loadAlerts } from "./alerts";
import { loadEmblems } from "./emblems";
import { loadItemFiles } from "./files";
import { loadNotes, loadOutNotes, loadWithdrawn } from "./notes";
import { withTime } from "./time";
import { loadCode } from "./code/load-code";
import { writeHostMemory } from "./code/host-memory";
import { loadDelivery } from "./code/load-delivery";
import { hostTargets, writePipelineMemory } from "./code/pipeline-memory";
import { withCode, type DemoCode } from "./code/with-code";
import { loadTests, withTests, type DemoTests } from "./testing/load-tests";
import type { Target } from "../standins/sender";
import { demoDesignChanges, demoTerms } from "./terms";
import { demoWalk } from "./walks";
import { DAYS_OFF, DEMO_PASSWORD, demoDuties, mailOf, PEOPLE, TEAMS } from "./people";
import { PROJECTS, WEEKS, ZONE, type DemoProject } from "./projects";
import {
  ASIDE_REPORTS,
  DECLINE_REASONS,
  PROBLEM_WORDS,
  UNJUDGED_REPORTS,
  type DemoReport,
} from "./words/reports";

/**
 * Whether nothing was begun in the database yet: no people, and not without the demo on purpose.
 */
export async function isEmpty(): Promise<boolean> {
  const [begun] = await database().select().from(table.installation).limit(1);
  return begun === undefined && (await nobodyYet());
}

/**
 * Loads the demo world, in one transaction: all of it or nothing.
 * @param repositories the folder in which the crew's repositories are made
 */
export async function loadDemo(
  repositories: string,
  now: Instant = Date.now(),
): Promise<{ items: number; events: number; reports: number }> {
  return database().transaction(async (tx) => {
    await beginWorld(tx, "demo", now);
    await loadPeople(tx, now);
    await loadEmblems(tx, now);
    const counts = { items: 0, events: 0, reports: 0 };
    const [codes, targets]: [DemoCode[], Target[]] = [[], []];
    const told: Target[] = [];
    for (const [position, project] of PROJECTS.entries()) {
      const { workflow, ...others } = await loadProject(tx, project, now);
      const history = projectHistory(project, workflow, others, now);
      const broken = withBreaks(history, workflow, project.columns);
      const timed = withTime(broken, project.process.seed + 8000, now);
      const coded = withCode(project, timed, { workflow, folder: repositories, now });
      const { code } = coded;
      const tested = withTests(project, coded.items, { workflow, code, now });
      const shown =
        project.key === "TIX"
          ? withAcceptance(tested.items, workflow, { passed: passedIn(tested.tests), now })
          : { items: tested.items };
      const items = inOneOrder(shown.items, position);
      await loadItems(tx, items);
      codes.push(coded.code);
      const projectId = project.key.toLowerCase();
      const { seed } = project.process;
      const { target, repositoryId } = await loadCode(tx, projectId, coded.code, seed + 9200);
      const delivered = { seed: seed + 9400, repositoryId, now };
      targets.push(target);
      told.push(await loadDelivery(tx, projectId, coded.code, delivered));
      await loadTests(tx, project, tested.tests, { code, repositoryId, now });
      await loadItemFiles(tx, items);
      await tx
        .update(table.project)
        .set({ nextItemNumber: items.length + 1 })
        .where(eq(table.project.key, project.key));
      const { scores, votes } = demoWorth(items, seededRandom(project.process.seed + 6000), now);
      const rules = demoRules(project);
      await tx.insert(table.intakeRules).values(rules);
      await setFrom(tx, rules.projectId, {
        setting: "promises",
        value: rules.targets,
        validFrom: EVER,
      });
      const validFrom = now - WEEKS * 7 * DAY;
      await setFrom(tx, rules.projectId, {
        setting: "calendar",
        value: rules.calendar,
        validFrom,
      });
      await loadTerms(tx, project, now);
      await inChunks(scores, (c) => tx.insert(table.itemScore).values(c));
      await inChunks(votes, (c) => tx.insert(table.itemVote).values(c));
      if (project.key === "TIX") {
        await loadWalk(tx, "tix-board", items, now);
        await loadSizing(tx, items, now);
        await loadNotes(tx, "tix-release-20", items, now);
        await loadOutNotes(tx, "tix", items);
        if ("acceptance" in shown) await loadAcceptance(tx, "tix", shown.acceptance, now);
      }
      counts.items += items.length;
      counts.events += items.reduce((n, i) => n + i.events.length, 0);
      counts.reports += await loadReports(tx, project, items, now);
    }
    await loadWithdrawn(tx);
    await loadGroups(tx, now);
    for (const [personId, limit] of Object.entries(DEMO_PERSON_LIMITS))
      await setLimit(tx, { projectId: null, kind: "person", id: personId }, limit, "ines");
    await loadAlerts(tx, now);
    const heard = hostTargets(codes);
    writeHostMemory(repositories, codes, [...targets, ...heard]);
    writePipelineMemory(repositories, codes, { told, heard });
    return counts;
  });
}

/** The items whose last run passed. */
const passedIn = ({ runs }: DemoTests): ReadonlySet<string> =>
  new Set(runs.filter(({ verdict }) => verdict === "passed").map(({ item }) => item.id));

async function loadTerms(tx: Transaction, project: DemoProject, now: Instant): Promise<void> {
  const projectId = project.key.toLowerCase();
  const terms = demoTerms(project.key, now).map((term) => ({
    projectId,
    ...term,
    earlier: [...term.earlier],
    places: [...term.places],
  }));
  await tx.insert(table.projectTerm).values(terms);
  for (const { at, byId, ...change } of demoDesignChanges(now))
    await keepDesignChange(tx, { projectId, byId, at }, change);
}

async function loadPeople(tx: Transaction, now: Instant): Promise<void> {
  const password = await hashPassword(DEMO_PASSWORD);
  await tx.insert(table.team).values(TEAMS);
  await tx.insert(table.person).values(
    PEOPLE.map((p) => ({
      id: p.id,
      name: p.name,
      email: mailOf(p),
      emailVerified: true,
      administrator: p.administrator ?? false,
      calling: p.calling,
    })),
  );
  await tx.insert(table.account).values(
    PEOPLE.map((p) => ({
      id: `password-${p.id}`,
      accountId: p.id,
      providerId: "credential",
      userId: p.id,
      password,
    })),
  );
  await tx.insert(table.teamMember).values(PEOPLE.map((p) => ({ teamId: p.team, personId: p.id })));
  await tx.insert(table.dayOff).values(
    DAYS_OFF.map(({ personId, from, to }) => ({
      personId,
      from: isoDate(dayNumber(now + from * DAY, ZONE)),
      to: isoDate(dayNumber(now + to * DAY, ZONE)),
    })),
  );
}

async function loadProject(
  tx: Transaction,
  project: DemoProject,
  now: Instant,
): Promise<{ workflow: Workflow; tasks: Workflow; large: Workflow }> {
  const id = project.key.toLowerCase();
  const ids = uuidSource(seededRandom(project.process.seed + 500));
  const { days, share } = project.expectation;
  await tx.insert(table.project).values({
    id,
    key: project.key,
    name: project.name,
    visibility: project.key === "TIDE" ? "members" : "everyone",
    zone: ZONE,
    expectationDays: days,
    expectationShare: share,
    levelNames: LEVEL_NAMES,
  });
  const began = now - WEEKS * 7 * DAY;
  await setFrom(tx, id, { setting: "zone", value: ZONE, validFrom: began });
  await setFrom(tx, id, { setting: "expectation", value: { days, share }, validFrom: began });
  await tx.insert(table.duty).values(demoDuties(project.key).map((d) => ({ ...d, projectId: id })));
  await tx.insert(table.membership).values(
    PEOPLE.flatMap((p) => {
      const role = p.roles[project.key];
      return role ? [{ projectId: id, personId: p.id, role, trades: p.trades }] : [];
    }),
  );
  const main = withExpectedStays({
    ...fromTemplate(BUILD_REVIEW_TEST_DEPLOY, ids),
    id: `${id}-main`,
  });
  const workflow = await loadWorkflow(tx, id, demoVersions(main, began, now));
  const forTasks = { ...fromTemplate(SUB_TASKS, ids), id: `${id}-tasks` };
  const note = "The process as it was agreed on the first day.";
  const tasks = await loadWorkflow(tx, id, [
    { definition: forTasks, at: began, byId: "ines", note },
  ]);
  const largeIds = uuidSource(seededRandom(project.process.seed + 520));
  const forLarge = { ...fromTemplate(LARGE_WORKFLOW, largeIds), id: `${id}-large` };
  const large = await loadWorkflow(tx, id, [
    { definition: forLarge, at: began, byId: "ines", note },
  ]);
  const types = [
    { ...FIRST_TYPES.story, workflowId: workflow.id },
    { ...FIRST_TYPES.bug, workflowId: workflow.id },
    { ...FIRST_TYPES.request, workflowId: workflow.id },
    { ...FIRST_TYPES.task, workflowId: tasks.id },
    { ...LARGE_TYPES.voyage, workflowId: large.id },
    { ...LARGE_TYPES.charter, workflowId: large.id },
  ];
  const owner = { ownerKind: "project", ownerId: id, zone: ZONE } as const;
  const [sprints, releases] = [demoSprints(id, now), demoReleases(id, now)];
  await tx
    .insert(table.sprint)
    .values(howSprintsEnded(sprints, now).map((s) => ({ ...s, ...owner })));
  await tx.insert(table.release).values(releases.map((r) => ({ ...r, ...owner })));
  await tx.insert(table.releaseDate).values(demoReleaseDates(releases, now));
  await tx
    .insert(table.timeboxProject)
    .values([
      ...sprints.map((s) => ({ box: "sprint" as const, boxId: s.id, projectId: id })),
      ...releases.map((r) => ({ box: "release" as const, boxId: r.id, projectId: id })),
    ]);
  await tx.insert(table.ownField).values(demoFields(project).map((f) => ({ ...f, projectId: id })));
  await tx.insert(table.itemType).values(types.map((t) => ({ ...t, projectId: id })));
  const boardId = `${id}-board`;
  await tx.insert(table.board).values({ id: boardId, projectId: id, name: "Everything" });
  await tx
    .insert(table.board)
    .values(demoBoards(project).map((b, i) => ({ ...b, projectId: id, position: i + 1 })));
  await loadViews(tx, project, { began, now });
  for (const [position, column] of project.columns.entries()) {
    const columnId = ids();
    const { stage, name, part, min = null, max = null, minFirm = false, maxFirm = false } = column;
    await tx
      .insert(table.boardColumn)
      .values({ id: columnId, boardId, stage, name, part, position });
    const stateId = workflow.states.find((s) => s.name === column.state)!.id;
    await tx.insert(table.columnState).values({ boardId, columnId, stateId });
    const owner = ownerOfLimit(id, { id: columnId, stateIds: [stateId] });
    await setLimit(tx, owner, { min, max, minFirm, maxFirm }, "ines");
    for (const { of, ...limit } of demoCellLimits(project.key, column.state))
      await setLimit(tx, { projectId: id, kind: "column", id: columnId, of }, limit, "ines");
  }
  for (const { of, ...limit } of demoBoardLimits(project.key))
    await setLimit(tx, { projectId: id, kind: "board", id: boardId, of }, limit, "ines");
  await loadLargeBoard(tx, id, large);
  return { workflow, tasks, large };
}

/** What became of the last walk of a board. */
async function loadWalk(
  tx: Transaction,
  boardId: string,
  items: readonly DemoItem[],
  now: Instant,
): Promise<void> {
  const made = demoWalk(boardId, items, uuidSource(seededRandom(7200)), now);
  await tx.insert(table.walk).values(made.walk);
  await tx.insert(table.walkSeen).values(made.seen);
  await tx.insert(table.walkNote).values(made.notes);
}

async function loadSizing(
  tx: Transaction,
  items: readonly DemoItem[],
  now: Instant,
): Promise<void> {
  const { rounds, votes } = demoSizing(items, uuidSource(seededRandom(7300)), now);
  if (rounds.length > 0) await tx.insert(table.sizingRound).values(rounds);
  if (votes.length > 0) await tx.insert(table.sizingVote).values(votes);
}

/** The board of the larger pieces: a column for each step that is on the way. */
async function loadLargeBoard(tx: Transaction, projectId: string, large: Workflow): Promise<void> {
  const boardId = `${projectId}-voyages`;
  await tx.insert(table.board).values({ id: boardId, projectId, name: "Voyages", position: 9 });
  const columns = proposeColumns([large]);
  for (const [position, { stage, name, part, stateIds }] of columns.entries()) {
    const id = `${boardId}-${position}`;
    await tx.insert(table.boardColumn).values({ id, boardId, stage, name, part, position });
    await tx
      .insert(table.columnState)
      .values(stateIds.map((stateId) => ({ boardId, columnId: id, stateId })));
  }
}

/** A group of projects above which the crew looks at what the islands get. */
async function loadGroups(tx: Transaction, now: Instant): Promise<void> {
  const id = uuidSource(seededRandom(7100))();
  const madeAt = now - 60 * DAY;
  await tx.insert(table.projectGroup).values({ id, name: "On the quays", madeBy: "ines", madeAt });
  await tx
    .insert(table.projectGroupProject)
    .values(["tix", "gate"].map((projectId) => ({ groupId: id, projectId })));
}

/** The views and the named conditions of a project. */
async function loadViews(
  tx: Transaction,
  project: DemoProject,
  { began: madeAt, now }: { began: Instant; now: Instant },
): Promise<void> {
  const groundId = project.key.toLowerCase();
  const ids = uuidSource(seededRandom(project.process.seed + 700));
  const views = demoViews(project).map((v) => ({ ...v, id: ids(), groundId, version: 1, madeAt }));
  await tx.insert(table.view).values(views);
  const opened = DEMO_OPENED.flatMap(({ name, personId, daysAgo }) => {
    const viewId = views.find((v) => v.name === name)?.id;
    return viewId ? [{ viewId, personId, openedAt: now - daysAgo * DAY }] : [];
  });
  await tx.insert(table.viewUse).values(opened);
  await tx
    .insert(table.namedCondition)
    .values(
      demoConditions(project).map((c, position) => ({ ...c, id: ids(), groundId, position })),
    );
}

/** A workflow with all its versions; the last is in force. */
async function loadWorkflow(
  tx: Transaction,
  projectId: string,
  versions: readonly DemoVersion[],
): Promise<Workflow> {
  const workflow = versions[versions.length - 1].definition;
  const { id, name, version, states } = workflow;
  await tx.insert(table.workflow).values({ id, projectId, name, version });
  await tx.insert(table.state).values(states.map((s) => ({ ...s, workflowId: id })));
  await tx.insert(table.workflowVersion).values(
    versions.map(({ definition, ...told }, i) => ({
      ...told,
      definition,
      workflowId: id,
      version: definition.version,
      summary:
        i === 0
          ? ""
          : differences(versions[i - 1].definition, definition, EMPTY_VOCABULARY)
              .map((d) => d.sentence)
              .join(" "),
    })),
  );
  return workflow;
}

/**
 * Items as they stand in the one order of all: each project's own order, one project after the
 * other.
 */
function inOneOrder(items: readonly DemoItem[], project: number): DemoItem[] {
  const byRank = (a: DemoItem, b: DemoItem) =>
    compareRanks(a.snapshot.rank, b.snapshot.rank) || a.snapshot.number - b.snapshot.number;
  const order = [...items].sort(byRank);
  const ranks = ranksBetween(`a${project + 1}`, `a${project + 2}`, order.length);
  const rankOf = new Map(order.map((item, i) => [item.snapshot.id, ranks[i]]));
  return items.map(({ snapshot, events }) => {
    const rank = rankOf.get(snapshot.id)!;
    return {
      snapshot: { ...snapshot, rank },
      events: events.map((e) => (e.kind === "created" ? { ...e, new: { ...e.new, rank } } : e)),
    };
  });
}

/** Items with their events, and the stays, blocks, comments and links that the events amount to. */
export async function loadItems(tx: Transaction, items: readonly DemoItem[]): Promise<void> {
  const byId = new Map(items.map((one) => [one.snapshot.id, one]));
  const depthOf = ({ snapshot: { parentId } }: DemoItem): number => {
    const parent = parentId === null ? undefined : byId.get(parentId);
    return parent ? depthOf(parent) + 1 : 0;
  };
  const parentsFirst = [...items].sort((a, b) => depthOf(a) - depthOf(b));
  await inChunks(parentsFirst, (c) => tx.insert(table.item).values(c.map((i) => i.snapshot)));
  await inChunks(items, (c) =>
    tx.insert(table.itemKey).values(
      c.map(({ snapshot: { id: itemId, number, createdAt: since, projectId } }) => ({
        prefix: projectId.toUpperCase(),
        number,
        itemId,
        since,
      })),
    ),
  );
  const rows = items.flatMap((i) => i.events.map(eventRows));
  await inChunks(rows, (c) => tx.insert(table.itemEvent).values(c.map((r) => r.row)));
  await inChunks(
    rows.flatMap((r) => r.texts),
    (c) => tx.insert(table.itemText).values(c),
  );
  const flow = items.map(({ snapshot, events }) => flowRows(snapshot.id, flowRecord(events)));
  await inChunks(
    flow.flatMap((f) => f.stays),
    (c) => tx.insert(table.stay).values(c),
  );
  await inChunks(
    flow.flatMap((f) => f.blocks),
    (c) => tx.insert(table.block).values(c),
  );
  await inChunks(
    flow.flatMap((f) => f.passages),
    (c) => tx.insert(table.flowPassage).values(c),
  );
  await inChunks(
    flow.flatMap((f) => f.memberships),
    (c) => tx.insert(table.timeboxMembership).values(c),
  );
  const comments = items.flatMap(({ snapshot, events }) =>
    events.flatMap((e) =>
      e.kind === "commented"
        ? [
            {
              id: e.new.commentId,
              itemId: snapshot.id,
              authorId: e.actorId,
              body: e.new.body,
              named: e.new.named ?? NOBODY_NAMED,
              asks: e.new.asks ?? [],
              answersId: e.new.answersId ?? null,
              at: e.at,
            },
          ]
        : [],
    ),
  );
  await inChunks(comments, (c) => tx.insert(table.comment).values(c));
  const times = items.flatMap(({ snapshot, events }) =>
    events.flatMap((e) => {
      if (e.kind !== "time recorded" || e.new === null) return [];
      const { entryId: id, ...entry } = e.new;
      return [{ id, itemId: snapshot.id, at: e.at, ...entry }];
    }),
  );
  await inChunks(times, (c) => tx.insert(table.timeEntry).values(c));
  const links = items.flatMap(({ snapshot, events }) =>
    events.flatMap((e) =>
      e.kind === "linked" && e.new.outward
        ? [{ id: e.new.linkId, fromItemId: snapshot.id, toItemId: e.new.otherId, kind: e.new.kind }]
        : [],
    ),
  );
  await inChunks(links, (c) => tx.insert(table.itemLink).values(c));
}

type ReportRow = typeof table.report.$inferInsert;

/** An hour after it came in it was read, and which parts of the product it is about was said. */
const partsSaid = ({ id, parts, receivedAt }: ReportRow): ReportEvent[] =>
  parts
    ? [
        {
          ...{ kind: "parts said", old: null, new: parts },
          ...{ reportId: id, seq: 2, at: receivedAt + HOUR, actorId: "tomas" },
        },
      ]
    : [];

/** What happened to each report: it came in, and most were judged. */
const reportHistories = (
  rows: readonly ReportRow[],
  verdicts: readonly (typeof table.reportVerdict.$inferInsert)[],
): ReportEvent[] =>
  rows.flatMap((row): ReportEvent[] => {
    const { id, way = "form", receivedAt } = row;
    const received = receipt({ id, way, receivedAt, ...UNJUDGED });
    const given = verdicts.find((v) => v.reportId === id);
    if (!given) return [received, ...partsSaid(row)];
    const { id: verdictId, verdict, before, after, at, byId = null } = given;
    const judged = { kind: "judged" as const, verdictId, verdict: verdict.kind };
    const [old, now] = [standingOf(before), standingOf(after)];
    return [received, { ...judged, old, new: now, reportId: id, seq: 2, at, actorId: byId }];
  });

async function loadReports(
  tx: Transaction,
  project: DemoProject,
  items: readonly DemoItem[],
  now: Instant,
): Promise<number> {
  const random = seededRandom(project.process.seed + 900);
  const newId = uuidSource(random);
  const projectId = project.key.toLowerCase();
  const rows: ReportRow[] = [];
  const verdicts: (typeof table.reportVerdict.$inferInsert)[] = [];
  const messages: (typeof table.reportMessage.$inferInsert)[] = [];
  let reference = 100;
  const forms = demoForms(project, newId);
  await tx.insert(table.intakeForm).values(forms);
  await tx.insert(table.mailAddress).values(demoAddresses(project, now));
  const known = demoKnown(project, items, now);
  if (known.length > 0) await tx.insert(table.knownProblem).values(known);
  const base = (
    r: Pick<DemoReport, "title" | "happened" | "reproduce" | "place" | "from" | "parts">,
    receivedAt: Instant,
  ): ReportRow => ({
    id: newId(),
    projectId,
    reference: `R-${project.key[0]}${project.key[2]}${reference++}`,
    token: randomBytes(24).toString("base64url"),
    title: r.title,
    happened: r.happened,
    reproduce: r.reproduce,
    place: r.place,
    mail: `${r.from}@post.saltmarsh.example`,
    ...UNJUDGED,
    // Every fourth comes by mail, the others by the first form.
    ...(reference % 4 === 0
      ? { way: "mail" as const }
      : { formId: forms[0].id, answers: demoAnswers(project, reference) }),
    receivedAt,
    returnedAt: null,
    version: 1,
    ...(r.parts ? { parts: r.parts, seq: 2 } : { seq: 1 }),
  });
  const judged = (row: ReportRow, verdict: Verdict, after: ReportStanding, at: Instant) => {
    Object.assign(row, after, { version: 2, seq: 2 });
    verdicts.push({
      id: newId(),
      reportId: row.id,
      verdict,
      before: UNJUDGED,
      after,
      byId: "tomas",
      at,
      tookMs: 20_000 + random.index(80_000),
    });
  };

  const patience = seededRandom(project.process.seed + 7000);
  // Most unplanned bugs came in as a report; some were reported twice.
  for (const { snapshot } of items) {
    if (snapshot.typeId !== "bug" || snapshot.origin !== "unplanned" || snapshot.parentId) continue;
    const title = snapshot.title;
    const happened = `${title}. ${random.pick(PROBLEM_WORDS)} ${random.pick(PROBLEM_WORDS)}`;
    const source = {
      title,
      happened,
      reproduce: "",
      place: snapshot.place ?? "",
      from: `passenger.${reference}`,
    };
    // Some are read within the hour, some only after the weekend.
    const waited = (0.3 + 30 * patience.next() ** 3) * HOUR;
    const row = base(source, snapshot.createdAt - Math.round(waited));
    const after: ReportStanding = { ...UNJUDGED, status: "accepted", itemId: snapshot.id };
    const acceptance = {
      ...newAcceptance(title, "bug"),
      severity: snapshot.severity,
      priority: snapshot.priority,
      classOfService: snapshot.classOfService,
      origin: snapshot.origin,
      teamId: snapshot.teamId,
      assigneeId: null,
    };
    judged(row, { kind: "accept", acceptance }, after, snapshot.createdAt);
    rows.push(row);
    if (random.chance(0.12)) {
      const twin = base(
        { ...source, from: `passenger.${reference}` },
        snapshot.createdAt + 20 * HOUR,
      );
      judged(
        twin,
        { kind: "merge", itemId: snapshot.id },
        { ...after, status: "merged" },
        snapshot.createdAt + 22 * HOUR,
      );
      if (twin.receivedAt < now) rows.push(twin);
    }
  }
  for (const [i, reason] of DECLINE_REASONS.entries()) {
    const row = base(
      {
        title: `${random.pick(project.words.things)} ${random.pick(project.words.faults)}`,
        happened: random.pick(PROBLEM_WORDS),
        reproduce: "",
        place: "",
        from: `passenger.${reference}`,
      },
      now - (20 + i * 30) * 24 * HOUR,
    );
    judged(
      row,
      { kind: "decline", reason },
      { ...UNJUDGED, status: "declined", declineReason: reason },
      row.receivedAt + 5 * HOUR,
    );
    rows.push(row);
  }
  for (const aside of ASIDE_REPORTS.filter((r) => r.project === project.key)) {
    const row = base(aside, now - aside.hoursAgo * HOUR);
    const at = row.receivedAt + 6 * HOUR;
    if ("question" in aside) {
      judged(row, { kind: "ask", question: aside.question }, { ...UNJUDGED, status: "asked" }, at);
      messages.push({
        reportId: row.id,
        kind: "question",
        body: aside.question,
        authorId: "tomas",
        at,
      });
    } else {
      const until = isoDate(dayNumber(now, ZONE) + aside.parkedDays);
      judged(
        row,
        { kind: "park", until, itemId: null },
        { ...UNJUDGED, status: "parked", parkedUntil: until },
        at,
      );
    }
    rows.push(row);
  }
  for (const open of UNJUDGED_REPORTS.filter((r) => r.project === project.key))
    rows.push(base(open, now - open.hoursAgo * HOUR));

  const kept = new Set(rows.map((r) => r.id));
  await inChunks(rows, (c) => tx.insert(table.report).values(c));
  await inChunks(reportHistories(rows, verdicts), (c) =>
    tx.insert(table.reportEvent).values(c.map(reportEventRow)),
  );
  await inChunks(
    verdicts.filter((v) => kept.has(v.reportId)),
    (c) => tx.insert(table.reportVerdict).values(c),
  );
  if (messages.length > 0) await tx.insert(table.reportMessage).values(messages);
  const { tries, followers } = demoAround(
    rows.filter((r) => r.status === "unjudged") as { id: string; title: string }[],
    random,
    newId,
    now,
  );
  if (tries.length > 0) await tx.insert(table.reproduction).values(tries);
  if (followers.length > 0) await tx.insert(table.reportFollower).values(followers);
  const { received, written } = demoMail(project, rows, now);
  await tx.insert(table.mailIn).values(received);
  await tx.insert(table.mailOut).values(written);
  return rows.length;
}
