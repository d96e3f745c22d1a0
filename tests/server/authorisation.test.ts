import { behindBody } from "@/core/item/list/behind";
import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { PROJECT_TEMPLATES } from "@/core/workflow/templates";
import { ACTIONS, may, type Action, type Role } from "@/core/people/authorise";
import { database } from "@/db/connection";
import { item, itemText, membership, person, report } from "@/db/schema";
import { PLAIN_LOOK } from "@/core/view/look";
import { editViews } from "@/server/view/edit";
import { readWithdrawn } from "@/server/item/withdrawn";
import { readBoard } from "@/server/board/read";
import { readLearn } from "@/server/flow/read";
import { readSummary } from "@/server/flow/summary";
import { readWeek } from "@/server/time/week";
import { readDesk } from "@/server/intake/desk";
import { readReport } from "@/server/intake/read-report";
import { triageReport } from "@/server/intake/triage-report";
import { commandItem } from "@/server/item/command";
import { createItem } from "@/server/item/create";
import { readBehind } from "@/server/item/list/behind";
import { findItems } from "@/server/find/items";
import { readItem } from "@/server/item/read";
import { emptyText } from "@/server/item/empty-text";
import { enterProject, visibleProjects } from "@/server/people/access";
import { readMembers, setMember } from "@/server/people/members";
import { editTimebox } from "@/server/plan/timeboxes";
import type { Viewer } from "@/server/people/viewer";
import { discardDraft } from "@/server/workflow/draft";
import { readDesign } from "@/server/workflow/read";
import { putProjectAway } from "@/server/workflow/put-away";
import { startProject } from "@/server/workflow/start-project";
import { columnOf, itemIn, limitColumn, move, refusalOf, send, stateId } from "./setup/board";
import { ARTHUR, GRETA, INES, NOOR, OSKAR } from "./setup/people";
import { runningWorkflow, storeDraft } from "./setup/process";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

/**
 * One viewer of each role in TIX; a stranger sees TIX as an observer, because it is open to
 * everyone.
 */
const VIEWERS: Partial<Record<Role, Viewer>> = {
  administrator: GRETA,
  lead: INES,
  member: NOOR,
  observer: ARTHUR,
};

/** A use case for each action, on TIX. */
const ATTEMPTS: Record<
  Exclude<Action, "send report" | "answer question">,
  (viewer: Viewer, itemId: string) => Promise<unknown>
> = {
  "read project": (v) => readBoard(v, "TIX"),
  "read flow": (v) => readLearn(v, "TIX", { period: "4 weeks" }),
  "create item": (v) =>
    createItem(v, {
      commandId: randomUUID(),
      projectKey: "TIX",
      parentId: null,
      fields: { title: "x", typeId: "bug" },
    }),
  "move item": async (v, id) =>
    send(v, id, {
      kind: "move",
      from: await stateId("Backlog"),
      to: await stateId("Ready"),
      answers: {},
    }),
  "edit item": (v, id) => send(v, id, { kind: "edit", seenVersion: 1, changes: { estimate: 3 } }),
  "rank item": (v, id) => send(v, id, { kind: "place", below: null }),
  "comment item": (v, id) => send(v, id, { kind: "comment", body: "x" }),
  "block item": async (v, id) => {
    await move(GRETA, id, "Ready");
    return send(v, id, { kind: "block", cause: "x", waitingFor: null });
  },
  "link item": (v, id) => send(v, id, { kind: "link", linkKind: "relates to", otherKey: "TIX-1" }),
  "empty text": async (v, itemId) => {
    const [text] = await database().select().from(itemText).where(eq(itemText.itemId, itemId));
    const why = "A password.";
    return emptyText(v, { commandId: randomUUID(), itemId, textId: text.id, why });
  },
  "withdraw item": (v, id) => send(v, id, { kind: "withdraw", why: "Not wanted.", below: false }),
  "read withdrawn": (v) => readWithdrawn(v, "TIX"),
  "close talk": (v, itemId) =>
    commandItem(v, {
      commandId: randomUUID(),
      itemId,
      command: { kind: "close talk", closing: "members" },
    }),
  "override limit": (v) =>
    enterProject({
      reader: database(),
      viewer: v,
      where: { key: "TIX" },
      action: "override limit",
    }),
  "read intake": (v) => readDesk(v, "TIX"),
  "judge report": async (v) => {
    const [open] = await database()
      .select()
      .from(report)
      .where(eq(report.status, "unjudged"))
      .limit(1);
    return triageReport(v, open.id, {
      commandId: randomUUID(),
      seenVersion: open.version,
      verdict: { kind: "decline", reason: "x" },
    });
  },
  "plan work": (v) =>
    editTimebox(v, "TIX", {
      kind: "release",
      release: { id: "authorised", name: "Spring", dueOn: null, released: false },
    }),
  "read time of others": (v) =>
    readWeek(v, "TIX", { person: v.personId === "noor" ? "ivo" : "noor" }),
  "edit workflow": async (v) => {
    await storeDraft(v, await runningWorkflow());
    await discardDraft(v, "tix-main", 1);
  },
  "start project": async (v) => {
    const key = `NEW${Math.floor(Math.random() * 1e6)}`;
    await startProject(v, {
      name: "A new one",
      key,
      template: PROJECT_TEMPLATES[0].name,
      visibility: "members",
      zone: "Europe/London",
    });
  },
  "edit members": (v) => setMember(v, "TIX", { personId: OSKAR.personId, role: "observer" }),
  "put away project": async (v) => {
    await putProjectAway(v, "TIX", true);
    await putProjectAway(v, "TIX", false);
  },
  "keep view": (v) => makeView(v, "mine"),
  "share view": (v) => makeView(v, "shown"),
  "edit board": async (v) => {
    const { board } = await readDesign(GRETA, "TIX");
    const { id, boardId, min, max, minFirm, maxFirm } = await columnOf("Building");
    const limit = { min, max, minFirm, maxFirm };
    return limitColumn({ id, boardId }, board.version, limit, { by: v });
  },
};

const makeView = (v: Viewer, sharing: "mine" | "shown") =>
  editViews(v, "TIX", {
    kind: "make",
    id: randomUUID(),
    name: "What waits",
    sharing,
    look: PLAIN_LOOK,
  });

const cells = Object.entries(VIEWERS).flatMap(([role, viewer]) =>
  ACTIONS.filter((a): a is keyof typeof ATTEMPTS => a in ATTEMPTS).map(
    (action) => [role as Role, action, viewer] as const,
  ),
);

test.each(cells)("%s: %s", async (role, action, viewer) => {
  const itemId = await itemIn(GRETA, `For ${role} to ${action}`);
  expect(await refusalOf(ATTEMPTS[action](viewer, itemId))).toBe(
    may(role, action) ? "nothing refused" : "not allowed",
  );
});

test("every action of the table is attempted here, but for those that need no account", () => {
  expect([...Object.keys(ATTEMPTS), "send report", "answer question"].sort()).toEqual(
    [...ACTIONS].sort(),
  );
});

describe("a project for its members only is as if it were not there", () => {
  const tideItem = async () =>
    (await database().select().from(item).where(eq(item.projectId, "tide")).limit(1))[0];

  test.each([
    ["an observer elsewhere", ARTHUR],
    ["a member elsewhere", OSKAR],
  ])("to %s, through every read and write", async (_name, viewer) => {
    const hidden = await tideItem();
    const [hiddenReport] = await database()
      .select()
      .from(report)
      .where(eq(report.projectId, "tide"))
      .limit(1);
    const attempts = [
      readBoard(viewer, "TIDE"),
      readLearn(viewer, "TIDE", { period: "4 weeks" }),

      readSummary(viewer, "TIDE"),
      readDesign(viewer, "TIDE"),
      readMembers(viewer, "TIDE"),
      setMember(viewer, "TIDE", { personId: viewer.personId, role: "lead" }),
      readDesk(viewer, "TIDE"),
      readReport(viewer, hiddenReport.id),
      readItem(viewer, `TIDE-${hidden.number}`),
      readBehind(viewer, "TIDE", behindBody.parse({ ids: [hidden.id] })),
      createItem(viewer, {
        commandId: randomUUID(),
        projectKey: "TIDE",
        parentId: null,
        fields: { title: "x", typeId: "bug" },
      }),
      send(viewer, hidden.id, { kind: "comment", body: "x" }),
      triageReport(viewer, hiddenReport.id, {
        commandId: randomUUID(),
        seenVersion: 1,
        verdict: { kind: "decline", reason: "x" },
      }),
    ];
    for (const attempt of attempts) expect(await refusalOf(attempt)).toBe("not found");
    expect((await findItems(viewer, { q: `TIDE-${hidden.number}` })).rows).toEqual([]);
    expect(
      (await findItems(viewer, { q: hidden.title })).rows.filter((f) => f.key.startsWith("TIDE-")),
    ).toEqual([]);
    const elsewhere = await readBehind(viewer, "TIX", behindBody.parse({ ids: [hidden.id] }));
    expect([elsewhere.rows, elsewhere.groups[0].count]).toEqual([[], 0]);
    expect((await visibleProjects(database(), viewer)).map((p) => p.key)).not.toContain("TIDE");
  });

  test("a new member sees it at once, a removed one no longer", async () => {
    await database()
      .insert(membership)
      .values({ projectId: "tide", personId: "arthur", role: "observer" });
    expect((await readBoard(ARTHUR, "TIDE")).rights).toEqual({
      move: false,
      edit: false,
      overrideLimits: false,
      design: false,
      intake: false,
      add: false,
    });
    await database().delete(membership).where(eq(membership.personId, "arthur"));
    expect(await refusalOf(readBoard(ARTHUR, "TIX"))).toBe("nothing refused"); // open to everyone
    expect(await refusalOf(readBoard(ARTHUR, "TIDE"))).toBe("not found");
  });

  test("a parent of another project is refused, and reports stay out of an observer's item view", async () => {
    const hidden = await tideItem();
    expect(
      await refusalOf(
        createItem(NOOR, {
          commandId: randomUUID(),
          projectKey: "TIX",
          parentId: hidden.id,
          fields: { title: "x", typeId: "task" },
        }),
      ),
    ).toBe("invalid");
    const [accepted] = await database()
      .select({ itemId: report.itemId })
      .from(report)
      .where(eq(report.status, "accepted"))
      .limit(1);
    const [row] = await database().select().from(item).where(eq(item.id, accepted.itemId!));
    const key = `${row.projectId.toUpperCase()}-${row.number}`;
    expect((await readItem(GRETA, key)).reports.length).toBeGreaterThan(0);
    const stranger: Viewer = { ...ARTHUR };
    if (row.projectId !== "tide") expect((await readItem(stranger, key)).reports).toEqual([]);
  });

  test("nobody is an administrator by what they send", async () => {
    const admins = await database()
      .select({ id: person.id })
      .from(person)
      .where(eq(person.administrator, true));
    expect(admins).toEqual([{ id: "greta" }]);
  });
});
