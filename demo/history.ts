import type { Instant } from "@/core/calendar/instant";
import { DEMO_FILE_NAMES } from "./files";
import { HOUR, MINUTE } from "@/core/calendar/instant";
import { simulate, type Job, type Passage } from "@/core/forecast/simulator";
import { addDays, type Day } from "@/core/calendar/month";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { demoOwn } from "./fields";
import { demoReleases, demoSprints } from "./plans";
import { seededRandom, type Random } from "@/core/forecast/random";
import type { ItemCommand, MoveAnswers } from "@/core/item/command";
import { decide, type DecisionContext } from "@/core/item/decide";
import type { CreatedData, ItemEvent } from "@/core/item/event";
import type { Criterion } from "@/core/item/criterion";
import type { ClassOfService, EditableFields, ItemSnapshot, LinkKind } from "@/core/item/fields";
import { pick } from "@/core/item/pick";
import { compareRanks, ranksBetween } from "@/core/item/rank";
import { applyEvent } from "@/core/item/snapshot";
import { WAITS } from "@/core/item/blocker";
import { isInProgress } from "@/core/workflow/state";
import { isRefusal } from "@/core/workflow/refusal";
import { NOTHING_AROUND } from "@/core/condition/facts";
import { EMPTY_VOCABULARY } from "@/core/condition/vocabulary";
import { NEW_ITEM } from "@/core/item/new-item";
import { NO_FOLLOW_UP_CONTEXT } from "@/core/workflow/follow-ups/apply";
import { stateOf, type Workflow } from "@/core/workflow/workflow";
import { hoursOfWeeks, workClock, WORK_HOURS } from "./clock";
import { uuidSource } from "./ids";
import { PEOPLE, type DemoPerson } from "./people";
import { THREADS, type ThreadLine, type ThreadRole } from "./words/threads";
import { STORM_WEEKS, WEEKS, ZONE, type DemoProject } from "./projects";
import { describe, SUB_TASK_TITLES, titleSource, type DemoType } from "./titles";
import { LARGE_PIECES } from "./words/large-pieces";
import {
  BLOCKERS,
  BUILD_COMMENTS,
  CAME_BACK_REASONS,
  WITHDRAWN_REASONS,
  HOW_TO_TEST,
  PLACES,
  REVIEW_COMMENTS,
  SEND_BACK_REASONS,
  WANTED,
} from "./words/stock";
import { demoPartsOf } from "./terms";

export interface DemoItem {
  snapshot: ItemSnapshot;
  events: ItemEvent[];
}

/** What the simulation needs to know of an item before it is written down as commands. */
interface Draft extends Job {
  type: DemoType;
  classOfService: ClassOfService;
  origin: "planned" | "unplanned";
  createdAt: number;
  passages: Passage[];
}

const BUILD = 0;
const REVIEW = 1;
const TEST = 2;

/**
 * The history of a project: jobs go through the product's own simulator of queues, and each step
 * they take is given as a command to the product's own core, which decides and gives the events.
 * Nothing is written past the rules.
 */
export function projectHistory(
  project: DemoProject,
  workflow: Workflow,
  { tasks: taskWorkflow, large: largeWorkflow }: { tasks: Workflow; large: Workflow },
  now: Instant,
): DemoItem[] {
  const random = seededRandom(project.process.seed);
  const end = hoursOfWeeks(WEEKS);
  const instantOf = workClock(now, ZONE, end);
  const drafts = draw(project, random, end);
  for (const passage of simulateProcess(project, drafts, random, end))
    (passage.job as Draft).passages.push(passage);

  const writer = new HistoryWriter({
    project,
    workflow,
    taskWorkflow,
    largeWorkflow,
    random,
    instantOf,
    end,
    now,
  });
  const order = [...drafts].sort((a, b) => a.createdAt - b.createdAt);
  const newest = new Set([...drafts].sort((a, b) => b.arrivesAt - a.arrivesAt).slice(0, 90));
  // The backlog stands at the end: what will be pulled next has the best titles of all.
  const titles = titleSource(project.words, random);
  const titleOf = new Map<Draft, string>();
  for (const draft of [...order].sort(
    (a, b) => Number(inFlight(b)) - Number(inFlight(a)) || b.arrivesAt - a.arrivesAt,
  ))
    titleOf.set(draft, titles(draft.type, newest.has(draft)));
  // Somebody has put the backlog in order: dates and bugs tend to stand higher, what is intangible
  // lower.
  const wish = (d: Draft) =>
    random.next() -
    (d.classOfService === "fixed date" ? 0.5 : 0) -
    (d.type === "bug" ? 0.2 : 0) +
    (d.classOfService === "intangible" ? 0.4 : 0);
  const wishes = new Map(order.map((d) => [d, d.passages.length > 0 ? -1 : wish(d)]));
  const ranked = [...order].sort((a, b) => wishes.get(a)! - wishes.get(b)!);
  const ranks = new Map(ranksBetween(null, null, order.length).map((rank, i) => [ranked[i], rank]));
  for (const draft of order) writer.write(draft, titleOf.get(draft)!, ranks.get(draft)!);
  writer.writeAfterwards();
  return writer.items;
}

const inFlight = (draft: Draft) =>
  draft.passages.length > 0 && draft.passages.at(-1)!.finishedAt === null;

function draw(project: DemoProject, random: Random, end: number): Draft[] {
  const { items, backlog } = project.process;
  const drafts: Draft[] = [];
  const week = hoursOfWeeks(1);
  const weight = (w: number) => (STORM_WEEKS.includes(w) ? 1.5 : 1);
  const totalWeight = Array.from({ length: WEEKS }, (_, w) => weight(w)).reduce((a, b) => a + b, 0);
  let id = 0;
  for (let w = 0; w < WEEKS; w++) {
    const storm = STORM_WEEKS.includes(w);
    const n = Math.round((items * weight(w)) / totalWeight + random.next() - 0.5);
    for (let i = 0; i < n; i++) {
      const type: DemoType = random.chance(storm ? 0.6 : 0.36)
        ? "bug"
        : random.chance(0.2)
          ? "request"
          : "story";
      const unplanned = type === "bug" ? random.chance(storm ? 0.8 : 0.5) : random.chance(0.06);
      const classOfService: ClassOfService =
        unplanned && random.chance(0.11)
          ? "expedite"
          : random.chance(0.08)
            ? "fixed date"
            : random.chance(0.08)
              ? "intangible"
              : "standard";
      const arrivesAt = (w + random.next()) * week;
      const waited =
        classOfService === "expedite"
          ? random.next()
          : type === "bug"
            ? random.exponential(20)
            : random.exponential(90);
      drafts.push({
        id: id++,
        type,
        classOfService,
        origin: unplanned ? "unplanned" : "planned",
        arrivesAt,
        createdAt: Math.max(0, arrivesAt - waited),
        priority: {
          expedite: 0,
          "fixed date": 1,
          standard: type === "bug" ? 1.8 : 2,
          intangible: 3,
        }[classOfService],
        passages: [],
      });
    }
  }
  // One urgent interruption is in the boat right now.
  drafts.push({
    id: id++,
    type: "bug",
    classOfService: "expedite",
    origin: "unplanned",
    arrivesAt: end - 5,
    createdAt: end - 5.5,
    priority: 0,
    passages: [],
  });
  for (let i = 0; i < backlog; i++) {
    const type: DemoType = random.chance(0.3) ? "bug" : random.chance(0.3) ? "request" : "story";
    const age = Math.min(end - 1, random.exponential(160));
    drafts.push({
      id: id++,
      type,
      classOfService: random.chance(0.1)
        ? "fixed date"
        : random.chance(0.12)
          ? "intangible"
          : "standard",
      origin: type === "bug" && random.chance(0.5) ? "unplanned" : "planned",
      arrivesAt: end + 1 + i,
      createdAt: end - age,
      priority: 2,
      passages: [],
    });
  }
  return drafts;
}

function simulateProcess(
  project: DemoProject,
  drafts: Draft[],
  random: Random,
  end: number,
): Passage[] {
  const { builders, reviewers, testers, buildMedian, reviewMean, testMean } = project.process;
  const hurry = (job: Job) => ((job as Draft).classOfService === "expedite" ? 0.4 : 1);
  const size = (job: Job) => ((job as Draft).type === "story" ? 1.25 : 0.75);
  const visits = new Map<Job, number>();
  return simulate(
    {
      steps: [
        {
          servers: builders,
          service: (job, r) => {
            const visit = visits.get(job) ?? 0;
            visits.set(job, visit + 1);
            return (
              Math.min(44, r.logNormal(buildMedian, 0.62)) *
              size(job) *
              hurry(job) *
              (visit === 0 ? 1 : 0.4)
            );
          },
        },
        {
          servers: reviewers,
          service: (job, r) => Math.min(20, r.logNormal(reviewMean * 0.8, 0.65)) * hurry(job),
        },
        {
          servers: testers,
          service: (job, r) => Math.min(20, r.logNormal(testMean * 0.8, 0.65)) * hurry(job),
        },
      ],
      next: (_job, step, r) => {
        if (step === BUILD) return REVIEW;
        if (step === REVIEW) return r.chance(0.09) ? BUILD : TEST;
        return r.chance(0.13) ? BUILD : null;
      },
    },
    drafts,
    random,
    end,
  );
}

/**
 * Of what is ready to deploy: how much is not wanted any more. Of what went live: how much comes
 * back, and how long that takes at most.
 */
const STOPPED_SHARE = 0.03;
const CAME_BACK_SHARE = 0.025;
/** Of so many stories one waits for two others. */
const WAITS_EVERY = 5;
/** Of so many items that are worked on one is ready for its next step. */
const READY_EVERY = 2;
/** From which row of the backlog on the next sprints are filled, and with how many points the first. */
const COMING_FROM = 8;
const COMING_POINTS = 26;
/** On which days of the next sprint its first items are planned: the first begins before the second. */
const COMING_DAYS: readonly (readonly [from: number, to: number])[] = [
  [0, 4],
  [2, 8],
  [7, 11],
];
const daysFrom = (day: Day, [from, to]: readonly [number, number]) => ({
  plannedFrom: addDays(day, from),
  plannedTo: addDays(day, to),
});
/** When the first large piece is planned to begin, how far apart they are, and how long they take. */
const VOYAGE_BEGINS = -70;
const VOYAGE_APART = 24;
const VOYAGE_DAYS = [98, 60, 75];
/** The working hours of the demo that the longest thread goes back. */
const LONGEST_THREAD = 10;

/** Over so many days of work there was talk about something that waits. */
const TALK_WORKDAYS = 5;
/** And for how many working hours at most. */
const READY_HOURS = 3;
const CAME_BACK_HOURS = 50;
/** Of bugs that came in between: how many came out of what had gone live. */
const ESCAPED_SHARE = 0.18;

/** Of so many of the latest stories one belongs to a voyage, and so many to each at most. */
const VOYAGE_EVERY = 2;
const STORIES_OF_A_VOYAGE = 9;

/** Whether nothing is said to block an item, and no rule hurries it. */
const isFree = ({ openBlockers, classOfService }: ItemSnapshot): boolean =>
  openBlockers.length === 0 && classOfService !== "expedite";

/** What a history is written of: a project, its processes, its chance and its time. */
interface Scene {
  project: DemoProject;
  workflow: Workflow;
  taskWorkflow: Workflow;
  largeWorkflow: Workflow;
  random: Random;
  instantOf: (hours: number) => Instant;
  end: number;
  now: Instant;
}

/** Writes drafts down as commands and keeps what the core makes of them. */
class HistoryWriter {
  readonly items: DemoItem[] = [];
  private readonly extras: Random;
  private readonly ends: Random;
  private readonly readies: Random;
  private readonly pens: ItemPen[] = [];
  /** What went live, and when, in working hours. */
  private readonly wentLive: { pen: ItemPen; at: number }[] = [];
  private readonly newId: () => string;
  private readonly criterionId: () => string;
  private readonly builders: DemoPerson[];
  private readonly testers: DemoPerson[];
  private readonly busyUntil = new Map<string, number>();
  private readonly state: (name: string) => string;
  private number = 0;
  private somethingStuck = false;

  constructor(private readonly scene: Scene) {
    const { project, workflow } = scene;
    const members = PEOPLE.filter((p) => p.roles[project.key]);
    this.builders = members.filter((p) => p.does.includes("build"));
    this.testers = members.filter((p) => p.does.includes("test"));
    this.extras = seededRandom(project.process.seed + 4000);
    this.ends = seededRandom(project.process.seed + 5000);
    this.readies = seededRandom(project.process.seed + 6000);
    this.newId = uuidSource(seededRandom(project.process.seed + 1000));
    this.criterionId = uuidSource(seededRandom(project.process.seed + 7000));
    this.state = (name) => workflow.states.find((s) => s.name === name)!.id;
  }

  write(draft: Draft, title: string, rank: string): void {
    const { random } = this.scene;
    const storyPoints =
      draft.type === "bug" && draft.origin === "unplanned" ? 0 : random.pick([1, 2, 3, 3, 5, 5, 8]);
    const pen = new ItemPen(this, this.scene.workflow, draft.createdAt, {
      ...NEW_ITEM,
      ...this.fields(draft, title),
      ...this.planned(draft),
      estimate: random.chance(0.85) ? storyPoints : null,
      rank,
      parentId: null,
      typeId: draft.type,
    });
    this.pens.push(pen);
    const [first] = draft.passages;
    if (!first) return;
    pen.move(draft.arrivesAt, "Ready", "ines");
    let reviewer = "";
    for (const [i, passage] of draft.passages.entries()) {
      const back = i > 0 && passage.step === BUILD;
      if (back) {
        const reason = random.pick(SEND_BACK_REASONS);
        pen.move(
          passage.queuedAt,
          "Building",
          draft.passages[i - 1].step === REVIEW ? reviewer : this.pickTester(),
          { reason },
        );
      } else if (passage.step === REVIEW)
        pen.move(passage.queuedAt, "Waiting for review", pen.assignee);
      else if (passage.step === TEST)
        pen.move(
          passage.queuedAt,
          "Waiting for test",
          reviewer,
          pen.item.howToTest ? {} : { howToTest: random.pick(HOW_TO_TEST) },
        );
      if (passage.startedAt === null) break;
      if (passage.step === BUILD && !back) {
        const assignee = this.pickBuilder(passage);
        pen.move(passage.startedAt, "Building", assignee, { assigneeId: assignee });
        if (draft.type === "story" && random.chance(0.22)) this.writeTasks(pen, passage);
      }
      if (passage.step === REVIEW) {
        reviewer = random.pick(this.builders.filter((b) => b.id !== pen.assignee)).id;
        pen.move(passage.startedAt, "In review", reviewer, { reviewerId: reviewer });
      }
      if (passage.step === TEST) pen.move(passage.startedAt, "In test", this.pickTester());
      this.embellish(pen, passage, draft);
      if (passage.finishedAt === null) break;
    }
    const last = draft.passages.at(-1)!;
    if (
      last.step === TEST &&
      last.finishedAt !== null &&
      pen.item.stateId === this.state("In test")
    )
      this.deploy(pen, draft, last.finishedAt);
  }

  /**
   * Its sprint, its release and the project's own fields; drawn apart, so that the rest of the
   * history stays as it is.
   */
  private planned(draft: Draft) {
    const { extras, projectId } = this;
    const { now } = this.scene;
    const pulled = draft.passages.length > 0;
    const day = isoDate(dayNumber(this.scene.instantOf(draft.arrivesAt), ZONE));
    const sprint = demoSprints(projectId, now).find((s) => s.startsOn <= day && day <= s.endsOn);
    const release = demoReleases(projectId, now).find(
      (r) => r.dueOn! > isoDate(dayNumber(this.scene.instantOf(draft.arrivesAt), ZONE) + 14),
    );
    const labels = extras.chance(0.25)
      ? [extras.pick(["storm", "summer", "quay staff", "deck tablet", "refunds"])]
      : [];
    return {
      own: demoOwn(this.scene.project, draft.type, extras),
      labels,
      sprintId: pulled && extras.chance(0.8) ? (sprint?.id ?? null) : null,
      releaseId:
        pulled && draft.type !== "bug" && extras.chance(0.6) ? (release?.id ?? null) : null,
    };
  }

  private said(type: DemoType, title: string, random: Random) {
    const { description, criteria } = describe(type, title, random);
    return { description, criteria: criteria.map((text) => ({ id: this.criterionId(), text })) };
  }

  private fields(draft: Draft, title: string) {
    const { random } = this.scene;
    return {
      title,
      parts: demoPartsOf(this.scene.project.key, title),
      ...this.said(draft.type, title, random),
      severity:
        draft.type === "bug"
          ? draft.classOfService === "expedite"
            ? ("critical" as const)
            : random.pick(["minor", "moderate", "moderate", "major"] as const)
          : null,
      priority:
        draft.classOfService === "expedite"
          ? ("urgent" as const)
          : random.pick(["low", "normal", "normal", "normal", "high"] as const),
      classOfService: draft.classOfService,
      origin: draft.origin,
      teamId: random.chance(0.88) ? this.scene.project.team : "platform",
      assigneeId: null,
      reviewerId: null,
      place: draft.type === "bug" ? random.pick(PLACES) : null,
      howToTest: null,
      dueOn:
        draft.classOfService === "fixed date"
          ? new Date(
              this.scene.instantOf(draft.arrivesAt) + random.index(25) * 24 * HOUR + 6 * 24 * HOUR,
            )
              .toISOString()
              .slice(0, 10)
          : null,
    };
  }

  /**
   * Passed tests wait for a deployment: twice a week for small things, every second week for
   * releases.
   */
  private deploy(pen: ItemPen, draft: Draft, ready: number): void {
    pen.move(ready, "Ready to deploy", this.pickTester());
    const every =
      draft.type === "story" && this.scene.random.chance(0.35) ? 10 * WORK_HOURS : 2.5 * WORK_HOURS;
    const offset = 6;
    const at =
      draft.classOfService === "expedite"
        ? ready + 1.5
        : Math.ceil((ready - offset) / every) * every + offset + this.scene.random.next() * 0.4;
    if (at > this.scene.end) return;
    if (draft.classOfService === "standard" && this.ends.chance(STOPPED_SHARE))
      return pen.move(at, "Closed", "ines", { outcome: "obsolete" });
    pen.move(at, "Live", "greta", { outcome: "delivered" });
    this.wentLive.push({ pen, at });
  }

  /**
   * What became of finished work: some of it came back and went out once more, and some bugs came
   * out of it.
   */
  writeAfterwards(): void {
    const { ends } = this;
    for (const { pen, at } of this.wentLive)
      if (ends.chance(CAME_BACK_SHARE) && at + CAME_BACK_HOURS < this.scene.end)
        this.comeBack(pen, at + 5 + ends.next() * 20);
    for (const bug of this.pens) {
      if (
        bug.item.typeId !== "bug" ||
        bug.item.origin !== "unplanned" ||
        !ends.chance(ESCAPED_SHARE)
      )
        continue;
      const before = this.wentLive.filter(
        ({ pen: { item } }) =>
          item.typeId === "story" &&
          item.releaseId !== null &&
          item.deliveredAt! < bug.item.createdAt,
      );
      if (before.length > 0) bug.link("came from", ends.pick(before.slice(-12)).pen.item, "tomas");
    }
    this.writeDependencies();
    this.writeReady();
    this.writeTalk();
    this.writeWanted();
    this.writeLargePieces();
    this.writeThreads();
    this.writeWithdrawn();
    this.writeFiles();
    if (this.scene.project.key === "TIX") this.writeComing();
  }

  /** What the next sprints hold: more than the first can take, with one that waits for another team. */
  private writeComing(): void {
    const { end, now } = this.scene;
    const today = isoDate(dayNumber(now, ZONE));
    const [next, after] = demoSprints(this.projectId, now).filter((one) => one.startsOn > today);
    const free = this.pens
      .filter(
        ({ item }) =>
          ["story", "bug", "request"].includes(item.typeId) &&
          item.stateKind === "unstarted" &&
          item.withdrawnAt === null &&
          item.sprintId === null &&
          item.releaseId === null &&
          (item.estimate ?? 0) > 0,
      )
      .toSorted((a, b) => compareRanks(a.item.rank, b.item.rank))
      .slice(COMING_FROM);
    let points = 0;
    for (const [i, pen] of free.entries()) {
      if (points >= COMING_POINTS + 8) break;
      const sprintId = points < COMING_POINTS ? next.id : after.id;
      const assigneeId = points < COMING_POINTS ? this.builders[i % this.builders.length].id : null;
      pen.plan(end - 2, {
        sprintId,
        assigneeId,
        ...(i < COMING_DAYS.length ? daysFrom(next.startsOn, COMING_DAYS[i]) : {}),
        ...(i === 1 ? { teamId: "timetables" } : {}),
      });
      points += pen.item.estimate ?? 0;
    }
    free[0].link("waits for", free[1].item, "ines");
  }

  /** What was seen on a quay, put to work that is under way. */
  private writeFiles(): void {
    const underWay = this.pens.filter(
      ({ item }) => isInProgress(item.stateKind) && item.typeId === "bug",
    );
    for (const [i, name] of DEMO_FILE_NAMES.entries())
      underWay[Math.floor(i / 2)]?.addFile(this.scene.end - 3 + i, "hanna", name);
  }

  /** What was taken out of the backlog again, as nobody had begun it. */
  private writeWithdrawn(): void {
    const unwanted = this.pens.filter(
      ({ item }) =>
        item.typeId === "story" &&
        item.stateKind === "unstarted" &&
        item.clock.length === 0 &&
        item.sprintId === null &&
        item.releaseId === null &&
        item.parentId === null &&
        item.version === 1,
    );
    for (const [i, why] of WITHDRAWN_REASONS.entries())
      unwanted.at(-1 - i * 2)?.withdraw(this.scene.end - (i + 1) * WORK_HOURS, "ines", why);
  }

  /** What is said now about work that is under way. */
  private writeThreads(): void {
    const quietSince = this.scene.instantOf(this.scene.end - LONGEST_THREAD);
    const underWay = this.pens.filter(
      ({ item }) =>
        isInProgress(item.stateKind) &&
        item.typeId !== "task" &&
        item.assigneeId !== null &&
        item.updatedAt < quietSince,
    );
    for (const [i, thread] of THREADS.entries()) {
      const pen = underWay[(i * 2 + 1) % underWay.length];
      if (!pen) return;
      const who: Record<ThreadRole, string> = {
        assignee: pen.assignee,
        reviewer: pen.item.reviewerId ?? "ines",
        tester: this.testers[i % this.testers.length].id,
        lead: "ines",
      };
      pen.talk(this.scene.end, thread, who);
    }
  }

  /** Voyages with the stories that belong to them, under the project's charter. */
  private writeLargePieces(): void {
    const { charter, voyages } = LARGE_PIECES[this.scene.project.key];
    const begun = this.scene.end - hoursOfWeeks(14);
    const whole = this.writeLarge(begun, "charter", charter);
    whole.move(begun + 4, "Agreed", "ines");
    whole.move(begun + 9, "Under way", "ines");
    const free = this.pens.filter(
      ({ item }) => item.typeId === "story" && item.parentId === null && item.withdrawnAt === null,
    );
    const latest = free.slice(-voyages.length * VOYAGE_EVERY * STORIES_OF_A_VOYAGE);
    for (const [i, title] of voyages.entries()) {
      const at = begun + 12 + i * WORK_HOURS * 8;
      const voyage = this.writeLarge(at, "voyage", title);
      voyage.under(whole.item, "ines");
      const its = latest.filter((_, n) => n % (voyages.length * VOYAGE_EVERY) === i);
      for (const pen of its) pen.under(voyage.item, "ines");
      if (i < voyages.length - 1) voyage.move(at + 6, "Agreed", "ines");
      if (i < voyages.length - 2) voyage.move(at + 20, "Under way", "ines");
      const day = dayNumber(this.scene.now, ZONE) + VOYAGE_BEGINS + i * VOYAGE_APART;
      if (i < voyages.length - 1)
        voyage.plan(at + 30, {
          plannedFrom: isoDate(day),
          plannedTo: isoDate(day + VOYAGE_DAYS[i % VOYAGE_DAYS.length]),
        });
    }
  }

  private lastRank(): string {
    return this.pens
      .map(({ item }) => item.rank)
      .reduce((a, b) => (compareRanks(a, b) < 0 ? b : a));
  }

  private writeLarge(at: number, typeId: "voyage" | "charter", title: string): ItemPen {
    const pen = new ItemPen(this, this.scene.largeWorkflow, at, {
      ...NEW_ITEM,
      title,
      typeId,
      teamId: this.scene.project.team,
      // Below all else: what is large is pulled by nobody.
      rank: ranksBetween(this.lastRank(), null, 1)[0],
      parentId: null,
    });
    this.pens.push(pen);
    return pen;
  }

  /** Some of the stories that are open wait for others that came before them. */
  private writeDependencies(): void {
    const open = this.pens.filter(
      ({ item }) =>
        item.typeId === "story" && item.stateKind !== "finished" && item.withdrawnAt === null,
    );
    const waiting: [ItemPen, ItemSnapshot][] = [];
    for (let at = WAITS_EVERY; at < open.length; at += WAITS_EVERY)
      for (const before of [WAITS_EVERY, 2]) {
        open[at].link("waits for", open[at - before].item, "ines");
        waiting.push([open[at], open[at - before].item]);
      }
    // One of them cannot go on by now.
    const stuck = waiting.find(([{ item }]) => isInProgress(item.stateKind) && isFree(item));
    if (stuck) stuck[0].blockBy(this.scene.end - 20, stuck[1]);
  }

  /** What is done in its state and was not pulled on yet. */
  private writeReady(): void {
    const longAgo = this.scene.instantOf(this.scene.end - READY_HOURS);
    const worked = this.pens.filter(
      ({ item }) =>
        item.stateKind === "working" &&
        item.parentId === null &&
        item.enteredStateAt < longAgo &&
        isFree(item),
    );
    for (let at = 1; at < worked.length; at += READY_EVERY)
      worked[at].ready(this.scene.end - this.readies.next() * READY_HOURS, worked[at].assignee);
  }

  /** Work that somebody is at already, while it still stands in the backlog. */
  private writeTalk(): void {
    const longAgo = this.scene.instantOf(this.scene.end - TALK_WORKDAYS * WORK_HOURS);
    const waiting = this.pens.find(
      ({ item }) =>
        item.typeId === "story" &&
        item.stateKind === "unstarted" &&
        item.withdrawnAt === null &&
        item.createdAt < longAgo,
    );
    for (const [i, body] of BUILD_COMMENTS.slice(0, TALK_WORKDAYS - 1).entries())
      waiting?.comment(
        this.scene.end - (TALK_WORKDAYS - 1 - i) * WORK_HOURS,
        this.builders[i % 2].id,
        body,
      );
  }

  /** What is in test is tested in part, and of two stories somebody wants more than was agreed. */
  private writeWanted(): void {
    const begun = this.pens.filter(
      ({ item }) =>
        item.typeId === "story" && isInProgress(item.stateKind) && item.withdrawnAt === null,
    );
    for (const pen of begun)
      if (pen.item.stateId === this.state("In test"))
        pen.meet(this.scene.end - 2, this.testers[0].id, pen.item.criteria.slice(0, 1));
    for (const [i, pen] of begun.slice(0, WANTED.length).entries())
      pen.wantMore(this.scene.end - 6 - i, "ines", WANTED[i]);
  }

  private comeBack(pen: ItemPen, at: number): void {
    const { reviewerId } = pen.item;
    const steps: [hours: number, to: string, by: string, answers?: MoveAnswers][] = [
      [0, "Backlog", "ines", { reason: this.ends.pick(CAME_BACK_REASONS) }],
      [2, "Ready", "ines"],
      [3, "Building", pen.assignee],
      [9, "Waiting for review", pen.assignee],
      [11, "In review", reviewerId!],
      [13, "Waiting for test", reviewerId!],
      [15, "In test", "hanna"],
      [18, "Ready to deploy", "hanna"],
      [22, "Live", "greta", { outcome: "delivered" }],
    ];
    for (const [hours, to, by, answers] of steps) pen.move(at + hours, to, by, answers);
  }

  private pickBuilder(passage: Passage): string {
    const at = passage.startedAt!;
    const chosen = [...this.builders].sort(
      (a, b) => (this.busyUntil.get(a.id) ?? 0) - (this.busyUntil.get(b.id) ?? 0),
    )[0];
    this.busyUntil.set(chosen.id, Math.max(at, passage.finishedAt ?? this.scene.end + 8));
    return chosen.id;
  }

  private pickTester(): string {
    return this.scene.random.pick(this.testers).id;
  }

  /**
   * What makes a history worth reading: comments, blockers that were lifted, and some that were
   * not.
   */
  private embellish(pen: ItemPen, passage: Passage, draft: Draft): void {
    const { random } = this.scene;
    const from = passage.startedAt!;
    const to = passage.finishedAt ?? this.scene.end;
    const within = (share: number) => from + (to - from) * share;
    const blocked = to - from > 5 && random.chance(passage.step === BUILD ? 0.16 : 0.06);
    // One thing is always stuck right now; more by chance.
    const stuck = passage.step === BUILD && !this.somethingStuck;
    const open =
      passage.finishedAt === null &&
      to - from > 3 &&
      (random.chance(0.3) || stuck) &&
      draft.classOfService !== "expedite";
    if (open) this.somethingStuck = true;
    if (random.chance(0.5))
      pen.comment(
        within(0.15 + random.next() * 0.1),
        passage.step === REVIEW ? pen.item.reviewerId! : pen.assignee,
        random.pick(passage.step === REVIEW ? REVIEW_COMMENTS : BUILD_COMMENTS),
      );
    if (blocked || open) {
      const { cause, waitingFor } = random.pick(BLOCKERS);
      const blockId = pen.block(within(0.3), pen.assignee, cause, waitingFor);
      if (!open) pen.lift(within(0.3 + random.next() * 0.5), pen.assignee, blockId);
    }
    const handsOn = passage.step === BUILD || passage.step === REVIEW;
    if (handsOn && passage.finishedAt !== null && this.readies.chance(0.3))
      pen.ready(within(0.82 + this.readies.next() * 0.15), pen.assignee);
  }

  private writeTasks(parent: ItemPen, passage: Passage): void {
    const { random } = this.scene;
    const titles = random.pick(SUB_TASK_TITLES);
    const from = passage.startedAt!;
    const to = passage.finishedAt ?? this.scene.end + 20;
    const ranks = ranksBetween(null, null, titles.length);
    titles.forEach((title, i) => {
      const task = new ItemPen(this, this.scene.taskWorkflow, from + 0.1 + i * 0.05, {
        ...parent.item,
        title,
        description: "",
        criteria: [],
        typeId: "task",
        estimate: null,
        severity: null,
        dueOn: null,
        classOfService: "standard",
        assigneeId: parent.assignee,
        reviewerId: null,
        howToTest: null,
        place: null,
        rank: ranks[i],
        parentId: parent.item.id,
      });
      const at = from + ((to - from) * (i + 0.8)) / titles.length;
      if (at - 0.5 > from && at - 0.3 <= this.scene.end)
        task.move(
          Math.max(at - (to - from) / titles.length / 2, from + 0.3),
          "Doing",
          parent.assignee,
        );
      if (at <= this.scene.end) task.move(at, "Done", parent.assignee, { outcome: "delivered" });
    });
  }

  /** Carries a command out on an item by the core's own decision. */
  command({
    item,
    id,
    workflow,
    hours,
    actorId,
    command,
  }: {
    item: ItemSnapshot | null;
    id: string;
    workflow: Workflow;
    hours: number;
    actorId: string;
    command: ItemCommand;
  }): ItemEvent[] {
    // What is ready, and what is met, has chances of its own, so that the rest of the world stays as it was.
    const apart = command.kind === "ready" || command.kind === "meet";
    const random = apart ? this.readies : this.scene.random;
    const jitter = Math.floor(random.next() * 4 * MINUTE);
    const at = Math.min(
      this.scene.now - 1000,
      Math.max(
        this.scene.instantOf(Math.min(hours, this.scene.end)) + jitter,
        item?.updatedAt ?? 0,
      ),
    );
    const context: DecisionContext = {
      itemId: id,
      at,
      actorId,
      cause: "demo",
      commandId: this.newId(),
      changedSince: () => [],
      workflow,
      nameOf: (p) => p,
      teamName: (t) => t,
      teamsOf: () => [],
      actor: { personId: actorId, role: "member", teamIds: [] },
      asker: { personId: actorId, teamIds: [], now: at, zone: ZONE },
      around: NOTHING_AROUND,
      vocabulary: EMPTY_VOCABULARY,
      ownFields: [],
      followUps: NO_FOLLOW_UP_CONTEXT,
      inEndedSprint: false,
    };
    const events = decide(item, command, context);
    if (isRefusal(events))
      throw new Error(
        `${this.scene.project.key}: ${command.kind} refused: ${events.sentence} (${item ? stateOf(workflow, item.stateId).name : ""})`,
      );
    return events;
  }

  nextNumber(): number {
    return ++this.number;
  }

  nextId(): string {
    return this.newId();
  }

  get projectKey(): string {
    return this.scene.project.key;
  }

  get projectId(): string {
    return this.scene.project.key.toLowerCase();
  }
}

/** What is said of an item when it is made; the rest is the project's to give. */
const GIVEN = [
  "title",
  "typeId",
  "rank",
  ...(Object.keys(NEW_ITEM) as (keyof typeof NEW_ITEM)[]),
] as const;

/** One item while it is being written. */
class ItemPen {
  item: ItemSnapshot;
  private readonly record: DemoItem;

  constructor(
    private readonly writer: HistoryWriter,
    private readonly workflow: Workflow,
    createdAt: number,
    fields: Omit<CreatedData, "projectId" | "number" | "stateId" | "stateKind">,
  ) {
    const [first] = workflow.states;
    const id = writer.nextId();
    const data: CreatedData = {
      ...pick(fields, GIVEN),
      projectId: writer.projectId,
      number: writer.nextNumber(),
      stateId: first.id,
      stateKind: first.kind,
    };
    const events = writer.command({
      item: null,
      id,
      workflow,
      hours: createdAt,
      actorId: "tomas",
      command: { kind: "create", data },
    });
    this.item = events.reduce(applyEvent, null as ItemSnapshot | null)!;
    this.record = { snapshot: this.item, events: [...events] };
    writer.items.push(this.record);
  }

  get assignee(): string {
    return this.item.assigneeId ?? "ines";
  }

  move(hours: number, to: string, actorId: string, answers: MoveAnswers = {}): void {
    const target = this.workflow.states.find((s) => s.name === to)!.id;
    // Whoever has tested it ticks what it is accepted by.
    if (to === "Ready to deploy") this.meet(hours, actorId, this.item.criteria);
    this.run(hours, actorId, { kind: "move", from: this.item.stateId, to: target, answers });
  }

  /** Finds some of its criteria met. */
  meet(hours: number, actorId: string, criteria: readonly Criterion[]): void {
    const met = new Set(this.item.met.map(({ criterionId }) => criterionId));
    for (const { id } of criteria)
      if (!met.has(id)) this.run(hours, actorId, { kind: "meet", criterionId: id, on: true });
  }

  /** Somebody wants more of it than was agreed when it was begun. */
  wantMore(hours: number, actorId: string, text: string): void {
    const { criteria, estimate, version } = this.item;
    const changes = {
      criteria: [...criteria, { id: this.writer.nextId(), text }],
      estimate: (estimate ?? 0) + 2,
    };
    this.run(hours, actorId, { kind: "edit", seenVersion: version, changes });
  }

  comment(hours: number, actorId: string, body: string): void {
    this.run(hours, actorId, { kind: "comment", commentId: this.writer.nextId(), body });
  }

  /** A thread: who names whom, who is asked, and who answers. */
  talk(now: number, thread: readonly ThreadLine[], who: Record<ThreadRole, string>): void {
    const ids = thread.map(() => this.writer.nextId());
    const nameOf = (role: string) => PEOPLE.find((p) => p.id === who[role as ThreadRole])!.name;
    for (const [i, { by, body, before, answers, asks }] of thread.entries()) {
      const roles = [...body.matchAll(/@(assignee|reviewer|tester|lead)/g)].map((m) => m[1]);
      const people = [...new Set(roles.map((role) => who[role as ThreadRole]))];
      const asked = people.filter((id) => id !== who[by]);
      this.run(now - before, who[by], {
        kind: "comment",
        commentId: ids[i],
        body: body.replace(/@(assignee|reviewer|tester|lead)/g, (_, role) => `@${nameOf(role)}`),
        ...(people.length > 0 ? { named: { people, teams: [] } } : {}),
        ...(answers === undefined ? {} : { answersId: ids[answers] }),
        ...(asks && asked.length > 0 ? { asks: asked } : {}),
      });
    }
  }

  addFile(hours: number, actorId: string, name: string): void {
    this.run(hours, actorId, { kind: "add file", fileId: this.writer.nextId(), name });
  }

  /** A lead says when and by whom it is to be done. */
  plan(hours: number, changes: Partial<EditableFields>): void {
    this.run(hours, "ines", { kind: "edit", seenVersion: this.item.version, changes });
  }

  withdraw(hours: number, actorId: string, note: string): void {
    this.run(hours, actorId, { kind: "withdraw", note });
  }

  block(hours: number, actorId: string, cause: string, waitingFor: string): string {
    const blockId = this.writer.nextId();
    this.run(hours, actorId, { kind: "block", blockId, cause, waitingFor });
    return blockId;
  }

  /** By an item that it is said to wait for. */
  blockBy(hours: number, other: ItemSnapshot): void {
    const dependency = { itemId: other.id, key: `${this.writer.projectKey}-${other.number}` };
    const blockId = this.writer.nextId();
    const command = { kind: "block", blockId, cause: WAITS, waitingFor: null, dependency } as const;
    this.run(hours, this.assignee, command);
  }

  ready(hours: number, actorId: string): void {
    this.run(hours, actorId, { kind: "ready", on: true });
  }

  lift(hours: number, actorId: string, blockId: string): void {
    this.run(hours, actorId, { kind: "lift", blockId });
  }

  /** Under a larger piece, right after its last step. */
  under(parent: ItemSnapshot, actorId: string): void {
    const key = `${this.writer.projectKey}-${parent.number}`;
    this.run(0, actorId, {
      kind: "put under",
      parent: { parentId: parent.id, key },
      before: null,
    });
  }

  /** Right after its last step. */
  link(linkKind: LinkKind, other: ItemSnapshot, actorId: string): void {
    const otherKey = `${this.writer.projectKey}-${other.number}`;
    this.run(0, actorId, {
      kind: "link",
      linkId: this.writer.nextId(),
      linkKind,
      otherId: other.id,
      otherKey,
      outward: true,
    });
  }

  private run(hours: number, actorId: string, command: ItemCommand): void {
    const events = this.writer.command({
      item: this.item,
      id: this.item.id,
      workflow: this.workflow,
      hours,
      actorId,
      command,
    });
    this.item = events.reduce(applyEvent, this.item as ItemSnapshot | null)!;
    this.record.snapshot = this.item;
    this.record.events.push(...events);
  }
}
