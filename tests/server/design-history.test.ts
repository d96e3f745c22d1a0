import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { PLAIN_FIELD } from "@/core/item/own-field";
import type { DesignDifference } from "@/core/workflow/design-change";
import { database } from "@/db/connection";
import { board, intakeForm, project } from "@/db/schema";
import { editBoards } from "@/server/board/boards";
import { editPersonLimit } from "@/server/board/edit-limits";
import { editForm } from "@/server/intake/forms";
import { editRules, loadRules } from "@/server/intake/rules";
import { editOwnField } from "@/server/item/own-fields";
import { setMember } from "@/server/people/members";
import { visibleProjects } from "@/server/people/access";
import { editTimebox } from "@/server/plan/timeboxes";
import { settingsOf } from "@/server/workflow/dated-settings";
import { readDesignHistory } from "@/server/workflow/design-history";
import { editProject } from "@/server/workflow/edit-project";
import { readDesign } from "@/server/workflow/read";
import { editType } from "@/server/workflow/types";
import { columnOf, limitColumn, refusalOf } from "./setup/board";
import { ARTHUR, GRETA, INES, NOOR, OSKAR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const latest = async () => (await readDesignHistory(INES, "TIX")).changes[0];
const count = async () => (await readDesignHistory(INES, "TIX")).changes.length;
const FIELD = { ...PLAIN_FIELD, id: "draught", name: "Draught", kind: "number" as const };
const version = async (boardId: string) =>
  (await database().select().from(board).where(eq(board.id, boardId)))[0].version;

interface Step {
  does: () => Promise<unknown>;
  area: string;
  said: string;
  differences?: DesignDifference[];
}

const STEPS: [string, Step][] = [
  [
    "a field",
    {
      does: () => editOwnField(INES, "TIX", { kind: "save", field: FIELD }),
      area: "fields",
      said: "made the field “Draught”",
    },
  ],
  [
    "what a field is",
    {
      does: () =>
        editOwnField(INES, "TIX", { kind: "save", field: { ...FIELD, unit: "m", onCard: true } }),
      area: "fields",
      said: "changed the field “Draught”",
      differences: [
        { what: "unit", old: null, new: "m" },
        { what: "on cards", old: "no", new: "yes" },
      ],
    },
  ],
  [
    "that a field goes",
    {
      does: () => editOwnField(INES, "TIX", { kind: "remove", id: "draught" }),
      area: "fields",
      said: "took out the field “Draught”",
    },
  ],
  [
    "a type",
    {
      does: async () => {
        const type = (await readDesign(INES, "TIX")).types.find(({ id }) => id === "request")!;
        const { id, level, workflowId, glyph, template } = type;
        return editType(INES, "TIX", {
          kind: "save",
          type: { id, level, workflowId, glyph, template, name: "Wish" },
          newStates: {},
        });
      },
      area: "types",
      said: "changed the type “Wish”",
      differences: [{ what: "name", old: "Request", new: "Wish" }],
    },
  ],
  [
    "what levels are called",
    {
      does: () =>
        editType(INES, "TIX", {
          kind: "name levels",
          names: ["task", "story", "journey", "charter"],
        }),
      area: "types",
      said: "changed what the levels are called",
      differences: [
        {
          what: "levels",
          old: "task, story, voyage, charter",
          new: "task, story, journey, charter",
        },
      ],
    },
  ],
  [
    "a board",
    {
      does: () =>
        editBoards(INES, "TIX", {
          kind: "save",
          board: {
            id: "tix-harbour",
            name: "Harbour",
            columnsBy: "team",
            scope: null,
            columns: [],
          },
          seenVersion: 0,
        }),
      area: "boards",
      said: "made the board “Harbour”",
    },
  ],
  [
    "what a board is",
    {
      does: async () =>
        editBoards(INES, "TIX", {
          kind: "save",
          board: { id: "tix-harbour", name: "Quay", columnsBy: "label", scope: null, columns: [] },
          seenVersion: await version("tix-harbour"),
        }),
      area: "boards",
      said: "changed the board “Quay”",
      differences: [
        { what: "name", old: "Harbour", new: "Quay" },
        { what: "columns are", old: "teams", new: "labels" },
      ],
    },
  ],
  [
    "that a board goes",
    {
      does: () => editBoards(INES, "TIX", { kind: "remove", boardId: "tix-harbour" }),
      area: "boards",
      said: "took out the board “Quay”",
    },
  ],
  [
    "a limit of a column",
    {
      does: async () => {
        const column = await columnOf("Building");
        return limitColumn(column, await version(column.boardId), { max: 17, maxFirm: false });
      },
      area: "limits",
      said: "changed the limit of Building",
    },
  ],
  [
    "a limit of a person",
    {
      does: () =>
        editPersonLimit(INES, "TIX", {
          personId: "noor",
          min: null,
          max: 4,
          minFirm: false,
          maxFirm: false,
          unit: "items",
          level: null,
          workedOnly: false,
        }),
      area: "limits",
      said: "changed the limit of Noor Bakri",
    },
  ],
  [
    "what unsized items count for",
    {
      does: () => editBoards(INES, "TIX", { kind: "default size", size: 3 }),
      area: "limits",
      said: "changed what items without a size count for",
      differences: [{ what: "size", old: "1", new: "3" }],
    },
  ],
  [
    "a form",
    {
      does: async () => {
        const [form] = await database()
          .select()
          .from(intakeForm)
          .where(eq(intakeForm.projectId, "tix"))
          .limit(1);
        return editForm(INES, "TIX", {
          kind: "change",
          id: form.id,
          seenVersion: form.version,
          open: !form.open,
        });
      },
      area: "intake",
      said: "changed the form ",
    },
  ],
  [
    "triage rules",
    {
      does: async () => {
        const { version: seenVersion, triage } = await loadRules(database(), "tix");
        return editRules(INES, "TIX", {
          seenVersion,
          triage: { ...triage, personLimit: triage.personLimit === 7 ? 8 : 7 },
        });
      },
      area: "intake",
      said: "changed the triage rules",
    },
  ],
  [
    "who belongs to it",
    {
      does: () => setMember(INES, "TIX", { personId: "oskar", role: "observer" }),
      area: "people",
      said: "added Oskar Thorne as observer",
    },
  ],
  [
    "what somebody is",
    {
      does: () => setMember(INES, "TIX", { personId: "oskar", role: "member" }),
      area: "people",
      said: "made Oskar Thorne, who was observer, member",
    },
  ],
  [
    "that somebody goes",
    {
      does: () => setMember(INES, "TIX", { personId: "oskar", role: null }),
      area: "people",
      said: "took Oskar Thorne out, who was member",
    },
  ],
  [
    "a sprint",
    {
      does: () =>
        editTimebox(INES, "TIX", {
          kind: "sprint",
          sprint: {
            id: "tix-late",
            name: "Late tide",
            goal: "Dry feet",
            startsOn: "2031-01-06",
            endsOn: "2031-01-19",
          },
        }),
      area: "sprints and releases",
      said: "made the sprint “Late tide”",
    },
  ],
];

test.each(STEPS)("a change of %s is told with what was and is", async (_, step) => {
  const before = await count();
  await step.does();
  const change = await latest();
  expect(change).toMatchObject({ by: "Ines Dahl", area: step.area });
  expect(change.said.startsWith(step.said)).toBe(true);
  if (step.differences) expect(change.differences).toEqual(step.differences);
  expect(await count()).toBe(Math.min(before + 1, 50));
});

test("what changes nothing, and what is refused, is not told", async () => {
  const { id } = await latest();
  await setMember(INES, "TIX", { personId: "noor", role: "member" });
  const { name } = (await readDesign(INES, "TIX")).project;
  await editProject(INES, "TIX", { name });
  expect(
    await refusalOf(editOwnField(INES, "TIX", { kind: "save", field: { ...FIELD, kind: "date" } })),
  ).toBe("invalid");
  expect((await latest()).id).toBe(id);
});

describe("a project", () => {
  const rowOf = async () =>
    (await database().select().from(project).where(eq(project.id, "tix")))[0];

  test("is called otherwise, counts its days in another zone and expects otherwise from now on", async () => {
    const now = Date.now();
    await editProject(
      INES,
      "TIX",
      { name: "Tickets", zone: "Europe/Lisbon", expectation: { days: 12, share: 0.9 } },
      now,
    );
    expect(await rowOf()).toMatchObject({
      name: "Tickets",
      key: "TIX",
      zone: "Europe/Lisbon",
      expectationDays: 12,
      expectationShare: 0.9,
    });
    expect((await latest()).differences).toEqual([
      { what: "name", old: "Ticket app", new: "Tickets" },
      { what: "time zone", old: "Europe/London", new: "Europe/Lisbon" },
      { what: "expectation", old: "85 % within 11 days", new: "90 % within 12 days" },
    ]);
    const zones = await settingsOf(database(), "tix", "zone");
    expect(zones.find(({ validFrom }) => validFrom === now)?.value).toBe("Europe/Lisbon");
    expect(zones.some(({ validFrom, value }) => validFrom < now && value === "Europe/London")).toBe(
      true,
    );
    const expected = await settingsOf(database(), "tix", "expectation");
    expect(expected.find(({ validFrom }) => validFrom === now)?.value).toEqual({
      days: 12,
      share: 0.9,
    });
  });

  test("that is for its people alone is there for nobody else", async () => {
    const keys = async () => (await visibleProjects(database(), OSKAR)).map(({ key }) => key);
    expect(await keys()).toContain("TIX");
    await editProject(INES, "TIX", { visibility: "members" });
    expect(await keys()).not.toContain("TIX");
    expect(await refusalOf(readDesign(OSKAR, "TIX"))).toBe("not found");
    expect((await readDesign(ARTHUR, "TIX")).project.visibility).toBe("members");
    await editProject(GRETA, "TIX", { visibility: "everyone" });
    expect(await keys()).toContain("TIX");
  });

  test("is changed by those who lead it", async () => {
    for (const by of [NOOR, ARTHUR])
      expect(await refusalOf(editProject(by, "TIX", { name: "Mine" }))).toBe("not allowed");
  });
});

test("pages of the history go on where the one before ended, each change once", async () => {
  for (let i = 0; i < 55; i++)
    await editOwnField(INES, "TIX", {
      kind: "save",
      field: { ...FIELD, id: `f-${randomUUID().slice(0, 8)}`, name: `Buoy ${i}` },
    }).catch(() => undefined);
  const seen: string[] = [];
  let next: string | null = null;
  do {
    const page: Awaited<ReturnType<typeof readDesignHistory>> = await readDesignHistory(
      INES,
      "TIX",
      next ?? undefined,
    );
    seen.push(...page.changes.map(({ id }) => id));
    next = page.next;
  } while (next !== null);
  expect(seen.length).toBeGreaterThan(50);
  expect(new Set(seen).size).toBe(seen.length);
  expect(seen).toEqual([...seen].sort().reverse());
});
