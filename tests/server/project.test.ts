import { database } from "@/db/connection";
import { readBoard } from "@/server/board/read";
import { readDesk } from "@/server/intake/desk";
import { visibleProjects } from "@/server/people/access";
import { readMembers, setMember } from "@/server/people/members";
import { startProject } from "@/server/workflow/start-project";
import { PROJECT_TEMPLATES } from "@/core/workflow/templates";
import { refusalOf } from "./setup/board";
import { ARTHUR, INES, NOOR, OSKAR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";
import { startProjectBody } from "@/core/workflow/request";

givenTestDatabase();

const request = (key: string, more: object = {}) =>
  startProjectBody.parse({
    name: "Lighthouse",
    key,
    template: PROJECT_TEMPLATES[0].name,
    visibility: "members",
    zone: "Europe/London",
    ...more,
  });

describe("starting a project", () => {
  test.each(PROJECT_TEMPLATES.map((t, i) => [t.name, `LT${i}`]))(
    "from “%s” gives a board on which every state in progress has a column",
    async (template, key) => {
      await startProject(OSKAR, request(key, { template }));
      const { columns, workflows } = await readBoard(OSKAR, key);
      const shown = columns.flatMap((c) => c.stateIds);
      const main = workflows.find((w) => w.name === template)!;
      for (const state of main.states.filter((s) => s.kind === "waiting" || s.kind === "working"))
        expect(shown).toContain(state.id);
      expect(new Set(shown).size).toBe(shown.length);
    },
  );

  test("makes whoever starts it its lead, and a members' project is hidden from others", async () => {
    await startProject(OSKAR, request("HIDE"));
    expect((await readMembers(OSKAR, "HIDE")).members).toEqual([
      expect.objectContaining({ id: "oskar", role: "lead" }),
    ]);
    expect((await visibleProjects(database(), ARTHUR)).map((p) => p.key)).not.toContain("HIDE");
    expect(await refusalOf(readBoard(ARTHUR, "HIDE"))).toBe("not found");
  });

  test("refuses a key that is taken, a template that is not there, and stores nothing of either", async () => {
    await startProject(OSKAR, request("ONCE"));
    const before = (await visibleProjects(database(), OSKAR)).length;
    expect(await refusalOf(startProject(OSKAR, request("ONCE")))).toBe("invalid");
    expect(await refusalOf(startProject(OSKAR, request("TWICE", { template: "Make it up" })))).toBe(
      "invalid",
    );
    expect((await visibleProjects(database(), OSKAR)).length).toBe(before);
  });

  test.each([
    ["no name", { name: "  " }],
    ["a key that begins with a figure", { key: "1A" }],
    ["a key with markup", { key: "<B>" }],
    ["a zone that is none", { zone: "Mars/Olympus" }],
  ])("takes no request with %s", (_what, more) => {
    expect(() => request("GOOD", more)).toThrow();
  });
});

describe("the people of a project", () => {
  test("get their rights at once, and lose them at once", async () => {
    await startProject(OSKAR, request("CREW"));
    expect(await refusalOf(readDesk(NOOR, "CREW"))).toBe("not found");
    await setMember(OSKAR, "CREW", { personId: "noor", role: "member" });
    expect(await refusalOf(readDesk(NOOR, "CREW"))).toBe("nothing refused");
    expect(await refusalOf(setMember(NOOR, "CREW", { personId: "noor", role: "lead" }))).toBe(
      "not allowed",
    );
    await setMember(OSKAR, "CREW", { personId: "noor", role: null });
    expect(await refusalOf(readDesk(NOOR, "CREW"))).toBe("not found");
  });

  test("always have a lead, also when two leads step down at the same moment", async () => {
    await startProject(OSKAR, request("LEAD"));
    expect(await refusalOf(setMember(OSKAR, "LEAD", { personId: "oskar", role: "member" }))).toBe(
      "in use",
    );
    await setMember(OSKAR, "LEAD", { personId: "ines", role: "lead" });
    const both = await Promise.all([
      refusalOf(setMember(OSKAR, "LEAD", { personId: "oskar", role: "member" })),
      refusalOf(setMember(INES, "LEAD", { personId: "ines", role: "member" })),
    ]);
    expect(both.sort()).toEqual(["in use", "nothing refused"]);
  });

  test("are only added when they exist", async () => {
    await startProject(OSKAR, request("WHO"));
    expect(await refusalOf(setMember(OSKAR, "WHO", { personId: "nobody", role: "member" }))).toBe(
      "invalid",
    );
  });
});
