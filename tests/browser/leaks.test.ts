import { randomUUID } from "node:crypto";
import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { and, eq, inArray, or, sql } from "drizzle-orm";
import { PEOPLE as CREW } from "@demo/people";
import { newAcceptance } from "@/core/intake/acceptance";
import { closeDatabase, database } from "@/db/connection";
import {
  alert,
  alertPart,
  board,
  boardColumn,
  boardPlace,
  environment,
  deskPresence,
  item,
  itemEvent,
  itemLink,
  itemScore,
  itemVote,
  report,
  reportFile,
  reportMessage,
  reportVerdict,
  reproduction,
  itemTestCase,
  testCase,
  testPicture,
  acceptanceAnswer,
  showing,
  shownItem,
  testRun,
  testStepResult,
  walk,
  walkNote,
  walkSeen,
} from "@/db/schema";
import { readReport } from "@/server/intake/read-report";
import { submitForm } from "@/server/intake/forms";
import { triageReport } from "@/server/intake/triage-report";
import { recordReproduction } from "@/server/intake/reproductions";
import { createItem } from "@/server/item/create";
import { PLAIN_LOOK } from "@/core/view/look";
import type { WalkRequest } from "@/core/walk/contract";
import { editBoards } from "@/server/board/boards";
import { showWork } from "@/server/ship/acceptance/show";
import { saveCase } from "@/server/ship/testing/cases";
import { addTestPicture } from "@/server/ship/testing/pictures";
import { recordStep, startRun } from "@/server/ship/testing/runs";
import { changeWalk } from "@/server/walk/change";
import { send, stateId } from "../server/setup/board";
import { changeSaid, commit, pushed } from "../server/setup/code-host";
import { delivery, post } from "../server/setup/events";
import { INES } from "../server/setup/people";
import { FORM } from "../server/setup/reports";
import { unfollowed } from "../server/setup/unfollowed";
import { givenApplication } from "./setup/application";
import { cookiesOf } from "./setup/session";

/*
 * A restricted item and the reports behind it, looked for by every route, page, stream and command,
 * as five kinds of people. Those who may not see it must not be able to tell it from one that does
 * not exist: the same answer, nothing of it anywhere, and nothing of it changed. Those who may see
 * it find it, so the search is known to find what is there.
 */

const app = givenApplication();

/** Words that stand nowhere but in what is hidden. */
const MARKS = [
  "quartzlight",
  "nimblestone",
  "velvetquay",
  "copperlabel",
  "thistlecase",
  "amberfile",
  "ghostwriter",
  "pewterword",
  "saffronparent",
];
const PEOPLE = {
  administrator: "greta",
  lead: "ines",
  member: "noor",
  observer: "arthur",
  "a member elsewhere": "oskar",
} as const;
type Kind = keyof typeof PEOPLE;
const SEEING: Kind[] = ["administrator", "lead"];
const NOT_SEEING: Kind[] = ["member", "observer", "a member elsewhere"];

const cookies = {} as Record<Kind, string>;
/**
 * What is hidden: the item, one above and one below what everybody sees; and what everybody sees
 * beside it.
 */
const h = {
  id: "",
  key: "",
  below: "",
  parent: "",
  parentKey: "",
  accepted: "",
  merged: "",
  file: "",
  visible: "",
  visibleKey: "",
  child: "",
  open: "",
  link: "",
  board: "",
  list: "",
  alert: randomUUID(),
  walk: randomUUID(),
  note: randomUUID(),
  tryId: randomUUID(),
  caseId: randomUUID(),
  step: randomUUID(),
  caseNumber: "",
  run: "",
  picture: randomUUID(),
  showing: "",
};
const GHOST = {
  id: randomUUID(),
  key: "TIX-987654",
  below: randomUUID(),
  parent: randomUUID(),
  parentKey: "TIX-987653",
  accepted: randomUUID(),
  merged: randomUUID(),
  file: randomUUID(),
  link: randomUUID(),
  note: randomUUID(),
  caseId: randomUUID(),
  step: randomUUID(),
  caseNumber: "987654",
  run: "987653",
  picture: randomUUID(),
  showing: randomUUID(),
};

/** Waits until the worker has done what follows from all that happened. */
async function settled(): Promise<void> {
  while ((await unfollowed()) > 0) await new Promise((resolve) => setTimeout(resolve, 100));
}

type Init = { method?: string; body?: unknown; form?: Record<string, string> };
const formOf = (said: Record<string, string>) => {
  const form = new FormData();
  for (const [name, value] of Object.entries(said)) form.set(name, value);
  return form;
};
const ask = (kind: Kind | null, where: string, { method = "GET", body, form }: Init = {}) =>
  fetch(app.address() + where, {
    method,
    redirect: "manual",
    headers: {
      ...(kind ? { cookie: cookies[kind] } : {}),
      ...(body === undefined ? {} : { "Content-Type": "application/json" }),
      "x-forwarded-for": randomUUID(),
    },
    body: form ? formOf(form) : body === undefined ? undefined : JSON.stringify(body),
  });

beforeAll(async () => {
  process.env.DATABASE_URL = app.databaseUrl();
  for (const [kind, id] of Object.entries(PEOPLE)) {
    const { name } = CREW.find((p) => p.id === id)!;
    cookies[kind as Kind] = (await cookiesOf(app.address(), name)).join("; ");
  }
  const make = async (title: string, more: object = {}, parentId: string | null = null) =>
    (
      await createItem(INES, {
        commandId: randomUUID(),
        projectKey: "TIX",
        parentId,
        fields: { title, typeId: "story", ...more },
      })
    ).card;
  const visible = await make("A plain story that everybody sees");
  const parent = await make("Saffronparent above", { typeId: "story" });
  const receive = async (title: string, mail = "ghostwriter@post.saltmarsh.example") => {
    const { token } = await submitForm({
      projectKey: "TIX",
      name: "report",
      raw: { ...FORM, title: [title], happened: [`${title} thistlecase`], mail: [mail] },
      sent: [{ name: "amberfile.txt", content: Buffer.from("amberfile inside") }],
    });
    return (await database().select().from(report).where(eq(report.token, token)))[0];
  };
  const judge = async (id: string, verdict: Parameters<typeof triageReport>[2]["verdict"]) =>
    triageReport(INES, id, {
      commandId: randomUUID(),
      seenVersion: (await readReport(INES, id)).report.version,
      verdict,
    });
  const [accepted, merged, parked, open] = [
    await receive("Quartzlight of the gate"),
    await receive("Nimblestone"),
    await receive("Waits for something", "somebody@post.saltmarsh.example"),
    await submitForm({
      projectKey: "TIX",
      name: "report",
      raw: { ...FORM, title: ["An open report"] },
      sent: [],
    }),
  ];
  const made = await judge(accepted.id, {
    kind: "accept",
    acceptance: {
      ...newAcceptance("Quartzlight of the gate", "bug"),
      restricted: true,
      labels: ["copperlabel"],
      area: "Velvetquay",
      teamId: "quayside",
    },
  });
  await judge(merged.id, { kind: "merge", itemId: made.itemId! });
  await judge(parked.id, { kind: "park", until: null, itemId: made.itemId! });
  // What is parked says nothing of the item by itself.
  await database().update(report).set({ happened: "It waits." }).where(eq(report.id, parked.id));
  await database().delete(reportFile).where(eq(reportFile.reportId, parked.id));
  await recordReproduction(INES, accepted.id, {
    kind: "tried",
    id: h.tryId,
    try: { tried: "pewterword", version: "1", steps: "", result: "happened", note: "pewterword" },
  });
  const below = await make("Nimblestone below what everybody sees", {}, null);
  const child = await make("A child that everybody sees", { typeId: "task" }, parent.id);
  Object.assign(h, {
    id: made.itemId!,
    key: made.itemKey!,
    below: below.id,
    parent: parent.id,
    parentKey: parent.key,
    accepted: accepted.id,
    merged: merged.id,
    visible: visible.id,
    visibleKey: visible.key,
    child: child.id,
  });
  await send(INES, h.id, { kind: "comment", body: "pewterword" });
  await send(INES, h.id, { kind: "link", linkKind: "relates to", otherKey: visible.key });
  await send(INES, h.visible, { kind: "link", linkKind: "came from", otherKey: h.key });
  await send(INES, h.id, {
    kind: "move",
    from: await stateId("Backlog"),
    to: await stateId("Ready"),
    answers: {},
  });
  await send(INES, h.id, {
    kind: "move",
    from: await stateId("Ready"),
    to: await stateId("Building"),
    answers: { assigneeId: "ines" },
  });
  await send(INES, h.id, { kind: "block", cause: "pewterword", waitingFor: "velvetquay" });
  for (const id of [h.parent, h.below])
    await send(INES, id, {
      kind: "edit",
      seenVersion: (
        await database().select({ v: item.version }).from(item).where(eq(item.id, id))
      )[0].v,
      changes: { restricted: true },
    });
  const now = Date.now();
  await database()
    .insert(alert)
    .values({ id: h.alert, personId: "noor", itemId: h.id, firstAt: now, lastAt: now });
  await database()
    .insert(alertPart)
    .values({ alertId: h.alert, id: randomUUID(), at: now, rules: ["told"], said: "pewterword" });
  h.file = (
    await database().select().from(reportFile).where(eq(reportFile.reportId, accepted.id))
  )[0].id;
  h.open = (await database().select().from(report).where(eq(report.token, open.token)))[0].id;
  h.link = (
    await database()
      .select()
      .from(itemLink)
      .where(and(eq(itemLink.fromItemId, h.id), eq(itemLink.toItemId, h.visible)))
  )[0].id;
  h.board = randomUUID();
  h.list = randomUUID();
  await editBoards(INES, "TIX", {
    kind: "save",
    seenVersion: 0,
    board: {
      id: h.board,
      name: "Lists",
      columnsBy: "free",
      scope: null,
      columns: [{ id: h.list, stage: "Soon", name: "", part: "waiting", stateIds: [] }],
    },
  });
  for (const itemId of [h.id, h.visible])
    await editBoards(INES, "TIX", {
      kind: "place",
      boardId: h.board,
      itemId,
      columnId: h.list,
      below: null,
    });
  const walked = { board: "tix-board", order: "from the end", minutes: 15 } as const;
  const noted = { id: h.walk, noteId: h.note, itemId: h.id };
  const requests: WalkRequest[] = [
    { kind: "start", id: h.walk, ...walked },
    { kind: "go", id: h.walk, itemId: h.visible, passed: [h.below] },
    { kind: "go", id: h.walk, itemId: h.id, passed: [] },
    { kind: "later", ...noted, text: "pewterword" },
    {
      kind: "agree",
      ...noted,
      noteId: randomUUID(),
      text: "pewterword",
      ownerId: "ines",
      dueOn: null,
    },
  ];
  for (const request of requests) await changeWalk(INES, "TIX", request);
  const own = { suiteId: null, seenVersion: null, part: null, before: "pewterword" };
  const { number: caseNumber } = await saveCase(INES, "TIX", {
    ...{ ...own, id: h.caseId, title: "Quartzlight by night", itemKey: h.key },
    steps: [{ id: h.step, action: "pewterword", expected: "velvetquay" }],
  });
  const { number: run } = await startRun(INES, "TIX", {
    ...{ id: randomUUID(), itemKey: h.key, caseIds: [h.caseId], suiteId: null, takeTo: null },
    ...{ environment: "test", build: null, testerId: null },
  });
  Object.assign(h, { caseNumber: String(caseNumber), run: String(run) });
  const at = { key: "TIX", number: h.run };
  const where = { caseId: h.caseId, stepId: h.step };
  await recordStep(INES, at, {
    ...{ ...where, result: "failed", note: "pewterword", course: null, givenTo: null },
  });
  const content = readFileSync("docs/screenshots/board.png");
  await addTestPicture(INES, at, { ...where, id: h.picture, name: "amberfile.png", content });
  await showWork(INES, "TIX", {
    ...{ id: randomUUID(), to: [{ name: "ghostwriter", mail: "" }], words: "pewterword" },
    items: [
      {
        ...{ itemId: h.id, title: "Quartzlight for outside", how: "velvetquay", address: "" },
        ...{ tested: true, pictures: [h.picture] },
      },
    ],
  });
  [{ showingId: h.showing }] = await database()
    .select()
    .from(shownItem)
    .where(eq(shownItem.itemId, h.id));
  const [{ v: seenVersion }] = await database()
    .select({ v: item.version })
    .from(item)
    .where(eq(item.id, h.id));
  const changes = { releaseId: "tix-release-20" };
  await send(INES, h.id, { kind: "edit", seenVersion, changes });
  const change = "nimblestone/1";
  const onMain = commit(`${h.key}: velvetquay`);
  const repository = { repository: { id: "ticket-prices" } };
  const built = { commit: onMain.id, build: "7" };
  await post(
    pushed("main", [onMain], { main: true }),
    delivery("artifact.published", { id: "7", content: repository }, built),
    pushed(`id/${h.key.toLowerCase()}-quartzlight`, [commit(`${h.key}: velvetquay`)]),
    changeSaid("created", change, { title: `Quartzlight of ${h.key}`, branch: "pewterword" }),
  );
  await settled();
});
afterAll(() => closeDatabase());

/** Everything about what is hidden, row by row: a change of any of it shows. */
async function hiddenState(): Promise<string> {
  const ids = [h.id, h.below, h.parent];
  const reports = [h.accepted, h.merged];
  const db = database();
  const rows = await Promise.all([
    db.select().from(item).where(inArray(item.id, ids)).orderBy(item.id),
    db
      .select({ n: sql`count(*)` })
      .from(itemEvent)
      .where(inArray(itemEvent.itemId, ids)),
    db
      .select()
      .from(itemLink)
      .where(or(inArray(itemLink.fromItemId, ids), inArray(itemLink.toItemId, ids)))
      .orderBy(itemLink.id),
    db.select().from(boardPlace).where(inArray(boardPlace.itemId, ids)).orderBy(boardPlace.itemId),
    db.select().from(itemVote).where(inArray(itemVote.itemId, ids)),
    db.select().from(itemScore).where(inArray(itemScore.itemId, ids)),
    db.select().from(report).where(inArray(report.id, reports)).orderBy(report.id),
    db
      .select()
      .from(reportVerdict)
      .where(inArray(reportVerdict.reportId, reports))
      .orderBy(reportVerdict.id),
    db
      .select()
      .from(reportMessage)
      .where(inArray(reportMessage.reportId, reports))
      .orderBy(reportMessage.id),
    db
      .select()
      .from(reproduction)
      .where(inArray(reproduction.reportId, reports))
      .orderBy(reproduction.id),
    db.select().from(deskPresence).where(inArray(deskPresence.reportId, reports)),
    db
      .select({ id: item.id, parentId: item.parentId })
      .from(item)
      .where(eq(item.parentId, h.parent)),
    db.select().from(testCase).where(eq(testCase.id, h.caseId)),
    db.select().from(itemTestCase).where(eq(itemTestCase.caseId, h.caseId)),
    db.select().from(testRun).where(inArray(testRun.itemId, ids)),
    db.select().from(testStepResult).where(eq(testStepResult.caseId, h.caseId)),
    db.select().from(testPicture).where(eq(testPicture.caseId, h.caseId)),
    db.select().from(showing).where(eq(showing.id, h.showing)),
    db.select().from(shownItem).where(inArray(shownItem.itemId, ids)),
    db.select().from(acceptanceAnswer).where(inArray(acceptanceAnswer.itemId, ids)),
    db.select().from(walk).where(eq(walk.id, h.walk)),
    db.select().from(walkSeen).where(inArray(walkSeen.itemId, ids)).orderBy(walkSeen.itemId),
    db.select().from(walkNote).where(inArray(walkNote.itemId, ids)).orderBy(walkNote.id),
  ]);
  return JSON.stringify(rows);
}

/** Nothing of what is hidden stands in a text. */
function expectNothingOf(text: string): void {
  const small = text.toLowerCase();
  const { id, key, below, parent, parentKey, accepted, merged, file, note } = h;
  const marks = {
    ...Object.fromEntries(MARKS.map((m) => [m, m])),
    id,
    key,
    below,
    parent,
    parentKey,
    accepted,
    merged,
    file,
    note,
  };
  for (const [name, mark] of Object.entries(marks)) {
    // A key is a key only where no other letter or figure follows it.
    const at = small.search(new RegExp(`${mark.toLowerCase()}(?![0-9a-z])`));
    expect(at < 0 ? "nothing" : `${name}: ${text.slice(Math.max(0, at - 80), at + 80)}`).toBe(
      "nothing",
    );
  }
}

/**
 * What only reads. The addresses of all pages and routes, with TIX and an item that everybody sees
 * in their places.
 */
const READS: Record<string, string[]> = {
  "/api/across": ["/api/across"],
  "/account/alerts": ["/account/alerts"],
  "/across": ["/across"],
  "/across/[place]": ["/across/mine", "/across/team-quayside", "/across/mine?as=table"],
  "/api/items/[key]": ["/api/items/:visibleKey"],
  "/api/alerts": ["/api/alerts", "/api/alerts?shelf=later", "/api/alerts?shelf=done"],
  "/api/alerts/count": ["/api/alerts/count"],
  "/api/alerts/rules": ["/api/alerts/rules"],
  "/api/alerts/rules/ground": ["/api/alerts/rules/ground?project=TIX"],
  "/api/pins": ["/api/pins"],
  "/api/projects/[key]/withdrawn": ["/api/projects/TIX/withdrawn"],
  "/p/[key]/plan/withdrawn": ["/p/TIX/plan/withdrawn"],
  "/api/projects/[key]/terms": ["/api/projects/TIX/terms"],
  "/api/projects/[key]/terms/places": ["/api/projects/TIX/terms/places"],
  "/api/projects/[key]/parts": ["/api/projects/TIX/parts?name=The%20ticket%20itself"],
  "/api/projects/[key]/design-history": ["/api/projects/TIX/design-history"],
  "/p/[key]/plan/parts": ["/p/TIX/plan/parts", "/p/TIX/plan/parts?part=The%20ticket%20itself"],
  "/api/projects/[key]/today": ["/api/projects/TIX/today"],
  "/api/projects/[key]/today/count": ["/api/projects/TIX/today/count"],
  "/p/[key]/today": ["/p/TIX/today"],
  "/api/projects/[key]/backlog": ["/api/projects/TIX/backlog"],
  "/api/projects/[key]/backlog/reach": [
    "/api/projects/TIX/backlog/reach",
    "/api/projects/TIX/backlog/reach?weeks=52",
  ],
  "/api/projects/[key]/backlog/rows": [
    "/api/projects/TIX/backlog/rows",
    "/api/projects/TIX/backlog/rows?after=:id",
    "/api/projects/TIX/backlog/rows?order=by%20state&section=next&columns=parent,labels",
  ],
  "/api/projects/[key]/backlog/counts": [
    "/api/projects/TIX/backlog/counts?order=by%20state&counts=labels,createdBy",
  ],
  "/api/projects/[key]/board/finished": ["/api/projects/TIX/board/finished?board=:board"],
  "/api/projects/[key]/bulk": ["/api/projects/TIX/bulk"],
  "/api/projects/[key]/plan/sprints/[sprint]": [
    "/api/projects/TIX/plan/sprints/tix-sprint-21",
    "/api/projects/TIX/plan/sprints/tix-sprint-3",
  ],
  "/api/projects/[key]/plan/inside": ["/api/projects/TIX/plan/inside?timebox=sprint&id=none"],
  "/api/projects/[key]/board": [
    "/api/projects/TIX/board",
    "/api/projects/TIX/board?board=:board",
    "/api/projects/TIX/board?board=tix-people",
    "/api/projects/mine/board",
    "/api/projects/team-quayside/board",
  ],
  "/api/projects/[key]/flow": [
    "/api/projects/TIX/flow",
    "/api/projects/TIX/flow?period=4%20weeks&type=bug",
  ],
  "/api/projects/[key]/flow/band": ["/api/projects/TIX/flow/band?state=:building&day=:today"],
  "/api/projects/[key]/forms": ["/api/projects/TIX/forms"],
  "/api/projects/[key]/intake": ["/api/projects/TIX/intake"],
  "/api/projects/[key]/intake/reports": [
    "/api/projects/TIX/intake/reports",
    "/api/projects/TIX/intake/reports?words=quartzlight",
  ],
  "/api/projects/[key]/mailbox": ["/api/projects/TIX/mailbox"],
  "/api/projects/[key]/members": ["/api/projects/TIX/members"],
  "/api/projects/[key]/promises": ["/api/projects/TIX/promises"],
  "/api/projects/[key]/sources": ["/api/projects/TIX/sources"],
  "/api/projects/[key]/summary": ["/api/projects/TIX/summary"],
  "/api/projects/[key]/views": ["/api/projects/TIX/views"],
  "/api/projects/[key]/views/uses": ["/api/projects/TIX/views/uses"],
  "/api/projects/[key]/workflow": ["/api/projects/TIX/workflow"],
  "/api/projects/[key]/workflow/export": [
    "/api/projects/TIX/workflow/export?workflow=tix-main&format=json&which=published",
  ],
  "/api/projects/[key]/workflow/habits": ["/api/projects/TIX/workflow/habits?workflow=tix-main"],
  "/api/projects/[key]/workflow/replay": [
    "/api/projects/TIX/workflow/replay?workflow=tix-main&days=30",
  ],
  "/api/projects/[key]/workflow/versions": [
    "/api/projects/TIX/workflow/versions?workflow=tix-main&version=1",
  ],
  "/api/projects/[key]/walks": ["/api/projects/TIX/walks?board=tix-board"],
  "/api/projects/[key]/worth": ["/api/projects/TIX/worth"],
  "/api/reports/[id]": ["/api/reports/:open"],
  "/api/reports/[id]/breaks": [
    "/api/reports/:open/breaks?verdict=merge&item=:id",
    "/api/reports/:open/breaks?verdict=park&until=2999-01-01",
  ],
  "/api/find": [
    "/api/find?at=TIX&q=quartzlight",
    "/api/find?at=TIX&q=:key",
    "/api/find?at=TIX&q=saffronparent",
    "/api/find?at=TIX&q=pewterword",
    "/api/find?at=TIX&q=thistlecase",
    "/api/find?at=TIX&q=ghostwriter",
    "/api/find?at=TIX&q=story",
  ],
  "/api/find/items": ["/api/find/items?q=quartzlight", "/api/find/items?q=:key&project=TIX"],
  "/api/formats/workflow.schema.json": ["/api/formats/workflow.schema.json"],
  "/api/health": ["/api/health"],
  "/api/public/known/[key]": ["/api/public/known/TIX?text=quartzlight+of+the+gate"],
  "/p/[key]": ["/p/TIX"],
  "/p/[key]/design": [
    "/p/TIX/design",
    "/p/TIX/design?place=people",
    "/p/TIX/design?place=types",
    "/p/TIX/design?place=boards",
  ],
  "/p/[key]/flow": [
    "/p/TIX/flow",
    "/p/TIX/flow?board=:board",
    "/p/TIX/flow?as=table",
    "/p/TIX/flow?as=table&groups=priority&sort=title&columns=title~description~labels",
  ],
  "/p/[key]/flow/views": ["/p/TIX/flow/views"],
  "/p/[key]/flow/walk": ["/p/TIX/flow/walk", "/p/TIX/flow/walk?board=tix-board"],
  "/p/[key]/intake": [
    "/p/TIX/intake",
    "/p/TIX/intake?judged=accept",
    "/p/TIX/intake?find=gate",
    "/p/TIX/intake?report=R-NONE",
  ],
  "/p/[key]/intake/forms": ["/p/TIX/intake/forms"],
  "/p/[key]/intake/import": ["/p/TIX/intake/import"],
  "/p/[key]/intake/mailbox": ["/p/TIX/intake/mailbox"],
  "/p/[key]/intake/promises": ["/p/TIX/intake/promises"],
  "/p/[key]/intake/rules": ["/p/TIX/intake/rules"],
  "/p/[key]/intake/worth": ["/p/TIX/intake/worth"],
  "/p/[key]/items/[item]": ["/p/TIX/items/:visibleKey", "/p/TIX/items/:childKey"],
  "/p/[key]/learn": ["/p/TIX/learn"],
  "/p/[key]/plan": ["/p/TIX/plan"],
  "/p/[key]/plan/planning": ["/p/TIX/plan/planning"],
  "/p/[key]/plan/releases": ["/p/TIX/plan/releases"],
  "/api/projects/[key]/plan/releases": ["/api/projects/TIX/plan/releases"],
  "/api/projects/[key]/plan/releases/[release]": ["/api/projects/TIX/plan/releases/tix-release-20"],
  "/p/[key]/plan/calendar": ["/p/TIX/plan/calendar"],
  "/api/projects/[key]/plan/calendar": ["/api/projects/TIX/plan/calendar"],
  "/p/[key]/plan/waiting": ["/p/TIX/plan/waiting"],
  "/api/projects/[key]/plan/waiting": ["/api/projects/TIX/plan/waiting"],
  "/p/[key]/plan/room": ["/p/TIX/plan/room"],
  "/api/projects/[key]/plan/room": ["/api/projects/TIX/plan/room"],
  "/p/[key]/plan/pieces": ["/p/TIX/plan/pieces"],
  "/api/projects/[key]/plan/pieces": ["/api/projects/TIX/plan/pieces"],
  "/p/[key]/plan/import": ["/p/TIX/plan/import"],
  "/p/[key]/plan/sizing": ["/p/TIX/plan/sizing"],
  "/p/[key]/ship": ["/p/TIX/ship"],
  "/p/[key]/ship/reviews": ["/p/TIX/ship/reviews"],
  "/api/projects/[key]/ship/reviews": ["/api/projects/TIX/ship/reviews"],
  "/api/projects/[key]/ship/code": ["/api/projects/TIX/ship/code"],
  "/p/[key]/ship/releases": ["/p/TIX/ship/releases?release=tix-release-20"],
  "/api/projects/[key]/ship/releases": ["/api/projects/TIX/ship/releases?release=tix-release-20"],
  "/p/[key]/ship/acceptance": ["/p/TIX/ship/acceptance"],
  "/api/projects/[key]/ship/acceptance": ["/api/projects/TIX/ship/acceptance"],
  "/p/[key]/ship/tests": ["/p/TIX/ship/tests"],
  "/p/[key]/ship/tests/cases": ["/p/TIX/ship/tests/cases"],
  "/api/projects/[key]/ship/tests": ["/api/projects/TIX/ship/tests"],
  "/api/projects/[key]/ship/tests/cases": ["/api/projects/TIX/ship/tests/cases"],
  "/p/[key]/ship/environments": ["/p/TIX/ship/environments"],
  "/api/projects/[key]/ship/where": ["/api/projects/TIX/ship/where"],
  "/api/projects/[key]/ship/deliveries": ["/api/projects/TIX/ship/deliveries"],
  "/api/projects/[key]/ship/forecast": [
    "/api/projects/TIX/ship/forecast?repository=ticket-prices&build=7&environmentId=:live",
  ],
  "/api/projects/[key]/item-table/file": ["/api/projects/TIX/item-table/file"],
  "/p/[key]/plan/time": ["/p/TIX/plan/time"],
  "/api/projects/[key]/time": ["/api/projects/TIX/time"],
  "/api/projects/[key]/timeline/forecast": ["/api/projects/TIX/timeline/forecast"],
  "/api/projects/[key]/plan/planning": ["/api/projects/TIX/plan/planning"],
  "/p/[key]/plan/sprints": ["/p/TIX/plan/sprints", "/p/TIX/plan/sprints?sprint=tix-sprint-21"],
  "/": ["/"],
  "/start": ["/start"],
  "/account": ["/account"],
  "/api/people/pictures": ["/api/people/pictures"],
  "/api/people/[id]/picture": ["/api/people/noor/picture"],
  "/people": ["/people"],
  "/parts": ["/parts"],
  "/api/people": ["/api/people"],
  "/welcome/[token]": ["/welcome/none"],
  "/sign-in": ["/sign-in"],
  "/releases/[key]": ["/releases/TIX"],
  "/api/public/releases/[key]": ["/api/public/releases/TIX"],
  "/report/[key]": ["/report/TIX"],
  "/report/[key]/[form]": ["/report/TIX/report"],
  "/embed/[key]/[form]": ["/embed/TIX/report"],
};

/**
 * What acts, or needs the address of one thing: tried with what is hidden and with what does not
 * exist.
 */
type Things = typeof GHOST;
const TRIES: [
  name: string,
  route: string,
  request: (of: Things) => [where: string, init?: Init],
][] = [
  ["read it", "/api/items/[key]", (of) => [`/api/items/${of.key}`]],
  [
    "copy the name of its branch",
    "/api/items/[key]/branch-name",
    (of) => [`/api/items/${of.key}/branch-name`],
  ],
  ["see how it is tested", "/api/items/[key]/tests", (of) => [`/api/items/${of.key}/tests`]],
  [
    "say that a case tests it",
    "/api/items/[key]/tests",
    (of) => [
      `/api/items/${of.key}/tests`,
      { method: "POST", body: { caseId: of.caseId, on: false } },
    ],
  ],
  [
    "say that its case tests what everybody sees",
    "/api/items/[key]/tests",
    (of) => [
      `/api/items/${h.visibleKey}/tests`,
      { method: "POST", body: { caseId: of.caseId, on: true } },
    ],
  ],
  [
    "say what the notes of its release say of it",
    "/api/projects/[key]/ship/releases/[release]/notes",
    (of) => [
      "/api/projects/TIX/ship/releases/tix-release-20/notes",
      { method: "POST", body: { itemId: of.id, words: "Mine", internal: false } },
    ],
  ],
  [
    "take its release back",
    "/api/projects/[key]/ship/releases/[release]/withdrawn",
    (of) => [
      "/api/projects/TIX/ship/releases/tix-release-20/withdrawn",
      { method: "POST", body: { withdrawn: true, why: "x", except: { [of.id]: "is reopened" } } },
    ],
  ],
  [
    "send its release out with another answer for it",
    "/api/projects/[key]/ship/releases/[release]/out",
    (of) => [
      "/api/projects/TIX/ship/releases/tix-release-20/out",
      {
        method: "POST",
        body: { id: randomUUID(), out: false, except: { [of.id]: "no release" } },
      },
    ],
  ],
  [
    "read its case",
    "/api/projects/[key]/ship/tests/cases/[number]",
    (of) => [`/api/projects/TIX/ship/tests/cases/${of.caseNumber}`],
  ],
  [
    "put its case away",
    "/api/projects/[key]/ship/tests/cases/[number]",
    (of) => [
      `/api/projects/TIX/ship/tests/cases/${of.caseNumber}`,
      { method: "POST", body: { putAway: true } },
    ],
  ],
  [
    "write its case anew",
    "/api/projects/[key]/ship/tests/cases",
    (of) => [
      "/api/projects/TIX/ship/tests/cases",
      {
        method: "POST",
        body: {
          ...{ id: of.caseId, seenVersion: 1, part: null, suiteId: null },
          ...{ title: "Mine", before: "", steps: [{ id: of.step, action: "x", expected: "" }] },
        },
      },
    ],
  ],
  [
    "test it",
    "/api/projects/[key]/ship/tests/runs",
    (of) => [
      "/api/projects/TIX/ship/tests/runs",
      {
        method: "POST",
        body: { id: randomUUID(), itemKey: of.key, caseIds: [of.caseId] },
      },
    ],
  ],
  [
    "read a run of it",
    "/api/projects/[key]/ship/tests/runs/[number]",
    (of) => [`/api/projects/TIX/ship/tests/runs/${of.run}`],
  ],
  ...(
    [
      ["say what is seen in a run of it", "steps", { result: "passed" }],
      ["end a run of it", "end", { commandId: GHOST.note }],
      ["give a run of it up", "give-up", { givenUp: true }],
    ] as const
  ).map(([name, act, body]): [string, string, (of: Things) => [string, Init]] => [
    name,
    `/api/projects/[key]/ship/tests/runs/[number]/${act}`,
    (of) => [
      `/api/projects/TIX/ship/tests/runs/${of.run}/${act}`,
      { method: "POST", body: { ...body, caseId: of.caseId, stepId: of.step } },
    ],
  ]),
  [
    "ask whose its failing step is",
    "/api/projects/[key]/ship/tests/runs/[number]/whose",
    (of) => [
      `/api/projects/TIX/ship/tests/runs/${of.run}/whose?caseId=${of.caseId}&stepId=${of.step}`,
    ],
  ],
  [
    "put a picture to a run of it",
    "/api/projects/[key]/ship/tests/runs/[number]/pictures",
    (of) => [
      `/api/projects/TIX/ship/tests/runs/${of.run}/pictures?id=${GHOST.link}&caseId=${of.caseId}&stepId=${of.step}`,
      { method: "POST", body: {} },
    ],
  ],
  [
    "see a picture of a run of it",
    "/api/projects/[key]/ship/tests/runs/[number]/pictures/[picture]",
    (of) => [`/api/projects/TIX/ship/tests/runs/${of.run}/pictures/${of.picture}`],
  ],
  [
    "take a picture off a run of it",
    "/api/projects/[key]/ship/tests/runs/[number]/pictures/[picture]",
    (of) => [
      `/api/projects/TIX/ship/tests/runs/${of.run}/pictures/${of.picture}`,
      { method: "DELETE" },
    ],
  ],
  [
    "whom it was shown to",
    "/api/items/[key]/acceptance",
    (of) => [`/api/items/${of.key}/acceptance`],
  ],
  [
    "how it could be shown",
    "/api/projects/[key]/ship/acceptance/drafts",
    (of) => [`/api/projects/TIX/ship/acceptance/drafts?items=${of.key}`],
  ],
  [
    "show it to somebody",
    "/api/projects/[key]/ship/acceptance",
    (of) => [
      "/api/projects/TIX/ship/acceptance",
      {
        method: "POST",
        body: {
          ...{ id: GHOST.note, to: [{ name: "Mine", mail: "" }], words: "" },
          items: [
            { itemId: of.id, title: "Mine", how: "", address: "", tested: true, pictures: [] },
          ],
        },
      },
    ],
  ],
  ...(["take back", "remind", "ask again"] as const).map((step): (typeof TRIES)[number] => [
    `${step} what is shown of it`,
    "/api/projects/[key]/ship/acceptance/[showing]",
    (of) => [`/api/projects/TIX/ship/acceptance/${of.showing}`, { method: "POST", body: { step } }],
  ]),
  [
    "say a word of it",
    "/api/projects/[key]/ship/acceptance/[showing]/said",
    (of) => [
      `/api/projects/TIX/ship/acceptance/${of.showing}/said`,
      { method: "POST", body: { itemIds: [of.id], accepted: true, name: "Mine", words: "" } },
    ],
  ],
  [
    "see a picture that is shown of it",
    "/api/projects/[key]/ship/acceptance/[showing]/pictures/[picture]",
    (of) => [`/api/projects/TIX/ship/acceptance/${of.showing}/pictures/${of.picture}`],
  ],
  ["what is below it", "/api/items/[key]/below", (of) => [`/api/items/${of.key}/below`]],
  [
    "look at it as a large piece",
    "/api/projects/[key]/plan/pieces/[piece]",
    (of) => [`/api/projects/TIX/plan/pieces/${of.id}`],
  ],
  [
    "ask what is like it",
    "/api/projects/[key]/plan/sizing/alike",
    (of) => [`/api/projects/TIX/plan/sizing/alike?item=${of.id}`],
  ],
  [
    "begin to size it",
    "/api/projects/[key]/plan/sizing",
    (of) => [
      "/api/projects/TIX/plan/sizing",
      { method: "POST", body: { kind: "open", id: randomUUID(), itemId: of.id } },
    ],
  ],
  [
    "ask who could take it",
    "/api/projects/[key]/plan/room/takers",
    (of) => [`/api/projects/TIX/plan/room/takers?item=${of.id}`],
  ],
  [
    "take it back as if it had been brought in",
    "/api/projects/[key]/item-table",
    (of) => [
      "/api/projects/TIX/item-table",
      { method: "POST", body: { kind: "take back", items: [{ id: of.id, placedBy: null }] } },
    ],
  ],
  [
    "bring something in that waits for it",
    "/api/projects/[key]/item-table",
    (of) => [
      "/api/projects/TIX/item-table",
      { method: "POST", body: { kind: "link", links: [{ id: h.child, waitsFor: of.key }] } },
    ],
  ],
  [
    "say why it came into a sprint",
    "/api/projects/[key]/plan/sprints/[sprint]/why",
    (of) => [
      "/api/projects/TIX/plan/sprints/tix-sprint-21/why",
      { method: "POST", body: { itemId: of.id, seq: 1, words: "Because." } },
    ],
  ],
  [
    "say that one has seen its changes",
    "/api/items/[key]/agreed-seen",
    (of) => [`/api/items/${of.key}/agreed-seen`, { method: "POST", body: { seq: 1 } }],
  ],
  [
    "say where it goes when its sprint ends",
    "/api/projects/[key]/plan/sprints/[sprint]",
    (of) => [
      "/api/projects/TIX/plan/sprints/tix-sprint-21",
      {
        method: "POST",
        body: {
          kind: "end",
          reached: null,
          words: "",
          to: null,
          exceptions: [{ itemId: of.id, to: null }],
        },
      },
    ],
  ],
  [
    "where else it could be",
    "/api/items/[key]/elsewhere",
    (of) => [`/api/items/${of.key}/elsewhere?to=GATE`],
  ],
  ["its page", "/p/[key]/items/[item]", (of) => [`/p/TIX/items/${of.key}`]],
  [
    "the items of a figure",
    "/api/projects/[key]/items",
    (of) => ["/api/projects/TIX/items", { method: "POST", body: { ids: [of.id, of.below] } }],
  ],
  [
    "what became of it on the board",
    "/api/projects/[key]/board/changes",
    ({ id, below }) => [
      "/api/projects/TIX/board/changes",
      {
        method: "POST",
        body: { board: h.board, ids: [id, below], finished: true, sum: "estimate" },
      },
    ],
  ],
  [
    "a picture of what is like it",
    "/api/projects/[key]/views/pictures",
    ({ key }) => {
      const filter = { kind: "compare", fact: "description", op: "contains", value: key } as const;
      const looks = (["table", "board"] as const).map((arrangement) => ({
        ...PLAIN_LOOK,
        arrangement,
        filter,
      }));
      return ["/api/projects/TIX/views/pictures", { method: "POST", body: { looks } }];
    },
  ],
  [
    "the mark on what is like it",
    "/api/projects/[key]/table/cards",
    ({ key }) => {
      const condition = { kind: "compare", fact: "description", op: "contains", value: key };
      const marks = [{ word: "like it", sign: "flag", tone: "rest", condition }];
      const cards = { facts: ["testResult"], marks };
      return ["/api/projects/TIX/table/cards", { method: "POST", body: { cards } }];
    },
  ],
  [
    "the lane that what is like it is in",
    "/api/projects/[key]/table/lanes",
    ({ key }) => {
      const condition = { kind: "compare", fact: "description", op: "contains", value: key };
      const by = { kind: "conditions", of: [{ name: "Like it", condition }] };
      return ["/api/projects/TIX/table/lanes", { method: "POST", body: { lanes: { by } } }];
    },
  ],
  [
    "the bar of what is like it",
    "/api/projects/[key]/timeline",
    ({ key }) => {
      const condition = { kind: "compare", fact: "description", op: "contains", value: key };
      return ["/api/projects/TIX/timeline", { method: "POST", body: { condition } }];
    },
  ],
  [
    "the values that what is like it has",
    "/api/projects/[key]/table/counted",
    ({ key }) => {
      const condition = { kind: "compare", fact: "description", op: "contains", value: key };
      const fields = [{ fact: "labels", condition }];
      return ["/api/projects/TIX/table/counted", { method: "POST", body: { condition, fields } }];
    },
  ],
  ...(["table", "table/matching", "table/export"] as const).map((list): (typeof TRIES)[number] => [
    `the ${list} of what is like it`,
    `/api/projects/[key]/${list}`,
    (of) => [
      `/api/projects/TIX/${list}`,
      {
        method: "POST",
        body: {
          board: null,
          condition: {
            kind: "any",
            of: [
              { kind: "compare", fact: "title", op: "contains", value: "quartzlight" },
              { kind: "compare", fact: "description", op: "contains", value: of.key },
            ],
          },
        },
      },
    ],
  ]),
  [
    "what would be done to it among several",
    "/api/projects/[key]/bulk/forecast",
    (of) => [
      "/api/projects/TIX/bulk/forecast",
      {
        method: "POST",
        body: {
          items: { ids: [of.id, of.below] },
          act: { kind: "put under", parentKey: of.parentKey },
        },
      },
    ],
  ],
  [
    "point it out",
    "/api/projects/[key]/bulk/point-out",
    (of) => [
      "/api/projects/TIX/bulk/point-out",
      {
        method: "POST",
        body: {
          items: { ids: [of.id, of.below] },
          personIds: ["ines"],
          teamIds: [],
          sentence: "Look at these.",
        },
      },
    ],
  ],
  [
    "do something to it among several",
    "/api/projects/[key]/bulk",
    (of) => [
      "/api/projects/TIX/bulk",
      {
        method: "POST",
        body: {
          kind: "start",
          id: randomUUID(),
          items: { ids: [of.id, of.below] },
          act: { kind: "label", add: ["x"] },
        },
      },
    ],
  ],
  ["search its key", "/api/find", (of) => [`/api/find?q=${of.key}`]],
  ["search items by its key", "/api/find/items", (of) => [`/api/find/items?q=${of.key}`]],
  ...(
    [
      ["comment", { kind: "comment", body: "x" }],
      ["edit", { kind: "edit", seenVersion: 1, changes: { title: "x" } }],
      ["make public", { kind: "edit", seenVersion: 1, changes: { restricted: false } }],
      ["move", { kind: "move", from: "x", to: "y", answers: {} }],
      ["place", { kind: "place", below: null }],
      ["block", { kind: "block", cause: "x", waitingFor: null }],
      ["approve", { kind: "approve", on: true }],
      ["tick", { kind: "tick", policyId: "x", on: true }],
      ["ask the requester", { kind: "ask", body: "x" }],
      ["put it under another", { kind: "put under", parentKey: null }],
      ["undo", { kind: "undo", commandId: randomUUID() }],
      ["take a file off", { kind: "remove file", fileId: randomUUID() }],
      ["put a file back", { kind: "put file back", fileId: randomUUID() }],
      ["withdraw", { kind: "withdraw", why: "x", below: true }],
      ["bring back", { kind: "bring back" }],
      ["change the type", { kind: "change type", typeId: "bug", stateId: null }],
      [
        "move it to another project",
        { kind: "change project", projectKey: "GATE", typeId: null, stateId: null, own: {} },
      ],
    ] as const
  ).map(([name, command]): (typeof TRIES)[number] => [
    name,
    "/api/items/commands",
    (of) => [
      "/api/items/commands",
      { method: "POST", body: { commandId: randomUUID(), itemId: of.id, command } },
    ],
  ]),
  [
    "link to it",
    "/api/items/commands",
    (of) => [
      "/api/items/commands",
      {
        method: "POST",
        body: {
          commandId: randomUUID(),
          itemId: h.visible,
          command: { kind: "link", linkKind: "relates to", otherKey: of.key },
        },
      },
    ],
  ],
  [
    "unlink from it",
    "/api/items/commands",
    (of) => [
      "/api/items/commands",
      {
        method: "POST",
        body: {
          commandId: randomUUID(),
          itemId: h.visible,
          command: { kind: "unlink", linkId: of.link },
        },
      },
    ],
  ],
  [
    "stand under it",
    "/api/items/commands",
    (of) => [
      "/api/items/commands",
      {
        method: "POST",
        body: {
          commandId: randomUUID(),
          itemId: h.visible,
          command: { kind: "put under", parentKey: of.parentKey },
        },
      },
    ],
  ],
  [
    "stand below it",
    "/api/items/commands",
    (of) => [
      "/api/items/commands",
      {
        method: "POST",
        body: {
          commandId: randomUUID(),
          itemId: h.visible,
          command: { kind: "place", below: of.below },
        },
      },
    ],
  ],
  [
    "make a child of it",
    "/api/items",
    (of) => [
      "/api/items",
      {
        method: "POST",
        body: {
          commandId: randomUUID(),
          projectKey: "TIX",
          parentId: of.parent,
          fields: { title: "x", typeId: "task" },
        },
      },
    ],
  ],
  [
    "follow",
    "/api/alerts/follow",
    (of) => [
      "/api/alerts/follow",
      { method: "POST", body: { kind: "item", target: of.id, on: true } },
    ],
  ],
  [
    "put to rest",
    "/api/rests",
    (of) => [
      "/api/rests",
      { method: "POST", body: { itemId: of.id, thing: "untouched", why: "x" } },
    ],
  ],
  [
    "copy it",
    "/api/items/[key]/copy",
    (of) => [
      `/api/items/${of.key}/copy`,
      { method: "POST", body: { commandId: randomUUID(), title: "x", parts: [] } },
    ],
  ],
  [
    "put a file to it",
    "/api/items/[key]/files",
    (of) => [`/api/items/${of.key}/files?id=${randomUUID()}&name=x`, { method: "POST" }],
  ],
  [
    "read a file of it",
    "/api/items/[key]/files/[file]",
    (of) => [`/api/items/${of.key}/files/${randomUUID()}`, { method: "GET" }],
  ],
  [
    "remove a file of it for good",
    "/api/items/[key]/files/[file]/emptied",
    (of) => [
      `/api/items/${of.key}/files/${randomUUID()}/emptied`,
      { method: "POST", body: { commandId: randomUUID(), why: "x" } },
    ],
  ],
  [
    "look at it",
    "/api/items/[key]/look",
    (of) => [`/api/items/${of.key}/look`, { method: "POST" }],
  ],
  [
    "sign a comment of it",
    "/api/items/[key]/signs",
    (of) => [
      `/api/items/${of.key}/signs`,
      { method: "POST", body: { commentId: randomUUID(), sign: "seen", on: true } },
    ],
  ],
  [
    "remove a comment of it for good",
    "/api/items/[key]/emptied",
    (of) => [
      `/api/items/${of.key}/emptied`,
      { method: "POST", body: { commandId: randomUUID(), commentId: randomUUID(), why: "x" } },
    ],
  ],
  [
    "no mail about",
    "/api/alerts/mail",
    (of) => ["/api/alerts/mail", { method: "POST", body: { itemId: of.id, stopped: true } }],
  ],
  [
    "make it known",
    "/api/items/known/[id]",
    (of) => [`/api/items/known/${of.id}`, { method: "POST", body: { words: "x" } }],
  ],
  [
    "put it into a list",
    "/api/projects/[key]/boards",
    (of) => [
      "/api/projects/TIX/boards",
      {
        method: "POST",
        body: { kind: "place", boardId: h.board, itemId: of.id, columnId: h.list, below: null },
      },
    ],
  ],
  [
    "take it out of a list",
    "/api/projects/[key]/boards",
    (of) => [
      "/api/projects/TIX/boards",
      {
        method: "POST",
        body: { kind: "place", boardId: h.board, itemId: of.id, columnId: null, below: null },
      },
    ],
  ],
  [
    "score it",
    "/api/projects/[key]/worth",
    (of) => [
      "/api/projects/TIX/worth",
      { method: "POST", body: { kind: "score", itemId: of.below, scores: {} } },
    ],
  ],
  [
    "vote for it",
    "/api/items/[key]/vote",
    (of) => [`/api/items/${of.key}/vote`, { method: "POST", body: { side: "for" } }],
  ],
  [
    "report with it in view",
    "/api/projects/[key]/intake/quick",
    (of) => [
      "/api/projects/TIX/intake/quick",
      { method: "POST", form: { title: "x", itemKey: of.key } },
    ],
  ],
  ["read its report", "/api/reports/[id]", (of) => [`/api/reports/${of.accepted}`]],
  ["read the report merged into it", "/api/reports/[id]", (of) => [`/api/reports/${of.merged}`]],
  [
    "a file of its report",
    "/api/reports/[id]/files/[file]",
    (of) => [`/api/reports/${of.accepted}/files/${of.file}`],
  ],
  ...(
    [
      ["walk on to it", (of: Things) => ({ kind: "go", itemId: of.id })],
      [
        "walk past it",
        (of: Things) => ({ kind: "go", itemId: h.visible, passed: [of.id, of.below] }),
      ],
      [
        "agree on it",
        (of: Things) => ({
          kind: "agree",
          noteId: randomUUID(),
          itemId: of.id,
          text: "x",
          ownerId: null,
          dueOn: null,
        }),
      ],
      [
        "leave it for later",
        (of: Things) => ({ kind: "later", noteId: randomUUID(), itemId: of.id, text: "x" }),
      ],
      ["take back what was noted of it", (of: Things) => ({ kind: "take back", noteId: of.note })],
    ] as const
  ).map(([name, request]): (typeof TRIES)[number] => [
    name,
    "/api/projects/[key]/walks",
    (of) => ["/api/projects/TIX/walks", { method: "POST", body: { id: h.walk, ...request(of) } }],
  ]),
  [
    "have its report open",
    "/api/reports/[id]/presence",
    (of) => [`/api/reports/${of.accepted}/presence`, { method: "POST", body: {} }],
  ],
  [
    "try its report",
    "/api/reports/[id]/tries",
    (of) => [
      `/api/reports/${of.accepted}/tries`,
      {
        method: "POST",
        body: {
          kind: "tried",
          id: randomUUID(),
          try: { tried: "x", version: "", steps: "", result: "happened", note: "" },
        },
      },
    ],
  ],
  [
    "say what its report is about",
    "/api/reports/[id]/parts",
    (of) => [`/api/reports/${of.accepted}/parts`, { method: "POST", body: { parts: [] } }],
  ],
  [
    "take its report apart",
    "/api/reports/[id]/apart",
    (of) => [`/api/reports/${of.merged}/apart`, { method: "POST", body: {} }],
  ],
  [
    "judge its report",
    "/api/reports/[id]/verdicts",
    (of) => [
      `/api/reports/${of.accepted}/verdicts`,
      {
        method: "POST",
        body: {
          commandId: randomUUID(),
          seenVersion: 1,
          verdict: { kind: "decline", reason: "x" },
        },
      },
    ],
  ],
  [
    "undo the verdict on its report",
    "/api/reports/[id]/verdicts",
    (of) => [
      `/api/reports/${of.accepted}/verdicts`,
      { method: "DELETE", body: { verdictId: GHOST.id } },
    ],
  ],
  ...(
    [
      ["merge into it", (of: Things) => ({ kind: "merge", itemId: of.id })],
      ["park for it", (of: Things) => ({ kind: "park", until: null, itemId: of.id })],
      [
        "accept below it",
        (of: Things) => ({
          kind: "accept",
          acceptance: { ...newAcceptance("x", "bug"), place: { at: "below", itemId: of.below } },
        }),
      ],
      [
        "say that it was found in it",
        (of: Things) => ({
          kind: "accept",
          acceptance: {
            ...newAcceptance("x", "bug"),
            found: { where: "in work", itemId: of.id, hours: 1, retestHours: 0 },
          },
        }),
      ],
      [
        "say that it came from it",
        (of: Things) => ({
          kind: "accept",
          acceptance: {
            ...newAcceptance("x", "bug"),
            found: { where: "in finished work", itemId: of.id },
          },
        }),
      ],
    ] as const
  ).map(([name, verdict]): (typeof TRIES)[number] => [
    name,
    "/api/reports/[id]/verdicts",
    (of) => [
      `/api/reports/${h.open}/verdicts`,
      { method: "POST", body: { commandId: randomUUID(), seenVersion: 1, verdict: verdict(of) } },
    ],
  ]),
];

/**
 * What changes the process, a form, people: leads alone do it, and nothing in it names an item.
 * What needs no account is told apart by its token.
 */
const NAMES_NO_ITEM = [
  "auth/[...all]",
  "code-host",
  "alerts",
  "alerts/feed",
  "alerts/hours",
  "alerts/rules",
  "alerts/rules/own",
  "alerts/rules/trial",
  "events/[source]",
  "join/[token]",
  "people/[id]/ended",
  "projects",
  "projects/[key]/adding",
  "projects/[key]/backlog/look",
  "projects/[key]/limits",
  "projects/[key]/limits/people",
  "projects/[key]/fields",
  "projects/[key]/settings",
  "projects/[key]/duties",
  "projects/[key]/invitations",
  "projects/[key]/put-away",
  "projects/[key]/intake/import",
  "projects/[key]/plan",
  "projects/[key]/plan/settings",
  "projects/[key]/plan/calendar/feed",
  "projects/[key]/ship/author",
  "projects/[key]/ship/deploy",
  "projects/[key]/ship/environments",
  "projects/[key]/ship/settings",
  "projects/[key]/types",
  "projects/[key]/views/short",
  "projects/[key]/workflow/draft",
  "projects/[key]/workflow/publish",
  "projects/[key]/ship/releases/public",
  "projects/[key]/ship/releases/[release]/tags",
  "projects/[key]/ship/tests/suites",
  "projects/[key]/workflow/visit",
  "projects/[key]/workflows",
  "projects/[key]/workflows/taken-out",
  "public/alerts/stop/[token]",
  "public/feed/[token]",
  "public/calendar/[token]",
  "public/forgotten",
  "public/join/[token]",
  "public/welcome/[token]",
  "public/acceptance/[token]",
  "public/acceptance/[token]/pictures/[picture]",
  "public/pages/[token]",
  "public/pages/[token]/files",
  "public/pages/[token]/files/[file]",
  "public/pages/[token]/follow",
  "public/pages/[token]/moves",
  "public/reports/[key]/[form]",
].map((r) => `/api/${r}`);

function addresses(folder = "src/app", at = ""): string[] {
  return readdirSync(path.join(process.cwd(), folder), { withFileTypes: true }).flatMap((e) => {
    if (e.isDirectory()) return addresses(`${folder}/${e.name}`, `${at}/${e.name}`);
    return e.name === "page.tsx" || e.name === "route.ts" ? [at || "/"] : [];
  });
}

test("every page and route stands in one of the tables of this test", () => {
  const known = new Set([
    ...Object.keys(READS),
    ...TRIES.map(([, route]) => route),
    ...NAMES_NO_ITEM,
    "/api/projects/[key]/stream",
    "/join/[token]",
    "/a/[token]",
    "/r/[token]",
    "/stop/[token]",
  ]);
  expect(addresses().filter((a) => !known.has(a))).toEqual([]);
});

const liveEnvironment = async () => {
  const ofTix = and(eq(environment.projectId, "tix"), eq(environment.live, true));
  return (await database().select().from(environment).where(ofTix))[0].id;
};

const filled = async (where: string) => {
  const childKey = `TIX-${(await database().select({ n: item.number }).from(item).where(eq(item.id, h.child)))[0].n}`;
  const values: Record<string, string> = {
    ...h,
    childKey,
    building: await stateId("Building"),
    live: await liveEnvironment(),
    today: String(Math.floor(Date.now() / 86_400_000)),
  };
  return where.replace(/:([a-zA-Z]+)/g, (_, name: string) => encodeURIComponent(values[name]));
};

test.each(NOT_SEEING)(
  "%s: nothing of it stands on any page or in any answer, and reading changes nothing",
  async (kind) => {
    const before = await hiddenState();
    for (const where of Object.values(READS).flat()) {
      const answer = await ask(kind, await filled(where));
      expect([where, answer.status < 500]).toEqual([where, true]);
      // What was asked for stands in the page that says that it is not there.
      const text = (await answer.text()).replaceAll(encodeURIComponent(await filled(where)), "");
      expectNothingOf(where.includes("q=") ? text.replaceAll(h.key, "") : text);
    }
    expect(await hiddenState()).toBe(before);
  },
);

test.each(SEEING)(
  "%s finds it in lists, pages and answers: the search finds what is there",
  async (kind) => {
    const found = async (where: string) =>
      (await (await ask(kind, await filled(where))).text()).toLowerCase();
    for (const [where, mark] of [
      ["/api/projects/TIX/board", "quartzlight"],
      ["/api/projects/TIX/terms", "copperlabel"],
      ["/api/projects/TIX/mailbox", "ghostwriter"],
      ["/api/find?q=quartzlight", "quartzlight"],
      ["/api/find?q=pewterword", "pewterword"],
      ["/api/find?q=thistlecase", "thistlecase"],
      ["/api/projects/TIX/walks?board=tix-board", "pewterword"],
      ["/across/team-quayside", "quartzlight"],
      ["/p/TIX/flow", "quartzlight"],
      ["/api/items/:visibleKey", "quartzlight"],
      ["/api/items/:key", "pewterword"],
      ["/api/items/:key", "nimblestone/1"],
      ["/api/projects/TIX/ship/code", "quartzlight"],
      ["/api/projects/TIX/ship/where", "quartzlight"],
      ["/api/projects/TIX/ship/tests/cases", "quartzlight"],
      ["/api/projects/TIX/ship/releases?release=tix-release-20", "quartzlight"],
      ["/api/projects/TIX/ship/tests/cases/:caseNumber", "velvetquay"],
      ["/api/projects/TIX/ship/tests/runs/:run", "pewterword"],
      ["/api/items/:key/tests", "quartzlight"],
      ["/api/projects/TIX/ship/acceptance", "quartzlight"],
      ["/api/items/:key/acceptance", "ghostwriter"],
      [`${READS["/api/projects/[key]/ship/forecast"][0]}`, "quartzlight"],
    ])
      expect([where, (await found(where)).includes(mark)]).toEqual([where, true]);
  },
);

/** An answer without what was sent: keys, ids and reference numbers. */
const bare = async (answer: Response, of: Things) => {
  let text = await answer.text();
  // Numbers of cases and runs are short: they stand in much that says nothing of them.
  const { caseNumber: _case, run: _run, ...long } = GHOST;
  for (const name of Object.keys(long) as (keyof Things)[]) text = text.replaceAll(of[name], "·");
  // A page carries ids of the build, the new item of a good answer its own, a list when it was read.
  return text
    .replace(/"now":\d{13}/g, '"now":0')
    .replace(/R-[A-Z0-9]{6}/g, "R")
    .replace(/"id":\d+/g, '"id":0')
    .replace(/"at":\d{13}/g, '"at":0');
};

describe.each(NOT_SEEING)("%s", (kind) => {
  test.each(TRIES)(
    "to %s is the same as with what does not exist",
    async (_name, _route, request) => {
      const before = await hiddenState();
      const [where, init] = request(h as unknown as Things);
      const [ghostWhere, ghostInit] = request(GHOST);
      const [answer, ghost] = [
        await ask(kind, where, init),
        await ask(kind, ghostWhere, ghostInit),
      ];
      expect(answer.status).toBe(ghost.status);
      expect(answer.status).toBeLessThan(500);
      if (!where.startsWith("/p/"))
        expect(await bare(answer, h as unknown as Things)).toBe(await bare(ghost, GHOST));
      expect(await hiddenState()).toBe(before);
    },
  );
});

test("without an account nothing of it is told either", async () => {
  for (const where of Object.values(READS)
    .flat()
    .filter((w) => !w.includes(":")))
    expectNothingOf((await (await ask(null, where)).text()).replaceAll("quartzlight", ""));
});

test("figures count it for everybody and open nothing of it", async () => {
  const summaryOf = async (kind: Kind) =>
    (await (await ask(kind, "/api/projects/TIX/summary")).json()) as {
      pulse: { inProgress: string[]; blocked: string[] };
      limitsBroken: { name: string; words: string }[];
      loads: Record<string, { words: string }>;
      seesAll: boolean;
    };
  const [lead, member] = [await summaryOf("lead"), await summaryOf("member")];
  expect(member.pulse.inProgress.length).toBe(lead.pulse.inProgress.length);
  expect(lead.pulse.inProgress).toContain(h.id);
  expect(member.pulse.blocked.filter((id) => id === "")).toHaveLength(1);
  expect([lead.seesAll, member.seesAll]).toEqual([true, false]);
  expect(member.limitsBroken).toEqual(lead.limitsBroken);
  expect(member.loads).toEqual(lead.loads);
  const boardOf = async (kind: Kind) =>
    (await (await ask(kind, "/api/projects/TIX/board")).json()) as {
      cards: { id: string; stateId: string }[];
      hidden: Record<string, number>;
    };
  const building = await stateId("Building");
  const count = ({ cards, hidden }: Awaited<ReturnType<typeof boardOf>>) =>
    cards.filter((c) => c.stateId === building).length + (hidden[building] ?? 0);
  expect(count(await boardOf("member"))).toBe(count(await boardOf("lead")));
});

test("the stream tells who may see it, and to others nothing of it", async () => {
  const hear = async (kind: Kind) => {
    const stop = new AbortController();
    const answer = await fetch(`${app.address()}/api/projects/TIX/stream`, {
      headers: { cookie: cookies[kind] },
      signal: stop.signal,
    });
    const reader = answer.body!.getReader();
    let text = "";
    const done = (async () => {
      for (;;) {
        const { value, done: ended } = await reader
          .read()
          .catch(() => ({ value: undefined, done: true }));
        if (ended) return;
        text += Buffer.from(value!).toString();
      }
    })();
    return { text: () => text, stop: () => (stop.abort(), done) };
  };
  const [lead, member] = [await hear("lead"), await hear("member")];
  const say = (itemId: string, body: string) => send(INES, itemId, { kind: "comment", body });
  await say(h.id, "pewterword again");
  await say(h.visible, "heard by all");
  const until = Date.now() + 60_000;
  const heardBoth = () =>
    lead.text().includes(h.id) &&
    lead.text().includes(h.visible) &&
    member.text().includes(h.visible);
  while (!heardBoth() && Date.now() < until)
    await new Promise((resolve) => setTimeout(resolve, 50));
  expect(heardBoth()).toBe(true);
  expectNothingOf(member.text());
  // A comment changes no figure: to others it is as if nothing had happened.
  expect(member.text()).not.toContain("design");
  await Promise.all([lead.stop(), member.stop()]);
});

test("the requester's own page is theirs, whatever became of it", async () => {
  const [row] = await database().select().from(report).where(eq(report.id, h.accepted));
  const text = await (await ask(null, `/r/${row.token}`)).text();
  expect(text).toContain("Quartzlight");
  for (const hidden of [h.id, h.key, h.visibleKey, "pewterword", "copperlabel"])
    expect(text).not.toContain(hidden);
});

test("boards and lists of this test are there for those who may see them", async () => {
  expect(
    await database().select({ id: board.id }).from(board).where(eq(board.id, h.board)),
  ).toHaveLength(1);
  expect(
    await database()
      .select({ id: boardColumn.id })
      .from(boardColumn)
      .where(eq(boardColumn.id, h.list)),
  ).toHaveLength(1);
});
