import { eq } from "drizzle-orm";
import { database } from "@/db/connection";
import { membership, session } from "@/db/schema";
import { editAccounts } from "@/server/people/accounts";
import type { Duty, DutyHolder } from "@/core/people/duty";
import { auth } from "@/server/people/auth";
import { readDesignHistory } from "@/server/workflow/design-history";
import { dutyBound, setDuties } from "@/server/people/duties";
import { loadDuties } from "@/server/people/load-duties";
import { endPerson } from "@/server/people/end-person";
import { readMembers, setMember } from "@/server/people/members";
import { loadVocabulary } from "@/server/condition/vocabulary";
import { readSummary } from "@/server/flow/summary";
import { readRoom } from "@/server/plan/people-room";
import { readTakers } from "@/server/plan/takers";
import { itemIn, refusalOf } from "./setup/board";
import { GRETA, INES, NOOR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
process.env.BETTER_AUTH_SECRET = "tests-only-secret-of-more-than-32-letters-0123456789";

describe("somebody who leaves", () => {
  const end = (personId: string, ended = true, by = GRETA) =>
    endPerson(by, personId, { ended, handOn: [] });
  const projectsOf = async (personId: string) =>
    (await database().select().from(membership).where(eq(membership.personId, personId))).length;

  test("is signed out, cannot sign in, belongs nowhere and has no duty, until brought back", async () => {
    const lukas = { email: "lukas.pell@saltmarsh.example", password: "tide-goes-out" };
    const signIn = () =>
      auth()
        .api.signInEmail({ body: lukas })
        .then(
          () => "in",
          () => "refused",
        );
    expect(await signIn()).toBe("in");
    expect(await projectsOf("lukas")).toBe(2);
    await end("lukas");
    expect(await signIn()).toBe("refused");
    const open = await database().select().from(session).where(eq(session.userId, "lukas"));
    expect([open.length, await projectsOf("lukas")]).toEqual([0, 0]);
    expect((await loadDuties(database(), "tix")).some((d) => d.holderId === "lukas")).toBe(false);
    expect(await refusalOf(setMember(INES, "TIX", { personId: "lukas", role: "member" }))).toBe(
      "invalid",
    );
    expect(await refusalOf(editAccounts(GRETA, { kind: "link", personId: "lukas" }))).toBe(
      "invalid",
    );
    await end("lukas", false);
    expect(await signIn()).toBe("in");
    await setMember(INES, "TIX", { personId: "lukas", role: "member" });
  });

  test("is neither oneself nor the only lead, and is ended by administrators", async () => {
    expect(await refusalOf(end("greta"))).toBe("invalid");
    expect(await refusalOf(end("ines"))).toBe("in use");
    expect(await projectsOf("ines")).toBe(3);
    expect(await refusalOf(end("noor", true, INES))).toBe("not allowed");
    expect(await refusalOf(end("nobody"))).toBe("not found");
  });
});

describe("what people are good for", () => {
  const give = (trades: string[] | undefined, by = INES, personId = "hanna") =>
    setMember(by, "TIX", { personId, role: "member", trades });
  const of = async (personId: string) =>
    (await readMembers(INES, "TIX")).members.find(({ id }) => id === personId)?.trades;

  test("is said by leads, stays when their role is set, and its changes are told", async () => {
    await give(["tester", "fog"]);
    expect(await of("hanna")).toEqual(["tester", "fog"]);
    await give(undefined);
    expect(await of("hanna")).toEqual(["tester", "fog"]);
    await give(["fog"]);
    expect(await refusalOf(give(["all"], NOOR))).toBe("not allowed");
    expect(await of("hanna")).toEqual(["fog"]);
    const { changes } = await readDesignHistory(INES, "TIX");
    expect(changes[0]).toMatchObject({ said: "changed what Hanna Vik is good for" });
    expect(changes[0].differences).toEqual([
      expect.objectContaining({ old: "tester, fog", new: "fog" }),
    ]);
  });

  test("stands wherever a person is chosen, in their room, and with who could take something", async () => {
    await give(["knots"]);
    const { loads } = await readSummary(INES, "TIX");
    expect(loads.hanna.trades).toEqual(["knots"]);
    const { people } = await readRoom(INES, "TIX");
    expect(people.find(({ id }) => id === "hanna")?.trades).toEqual(["knots"]);
    const { takers } = await readTakers(INES, "TIX", await itemIn(INES, "Knots"));
    expect(takers.find(({ id }) => id === "hanna")?.why).toMatch(/^knots, /);
    const { people: known } = await loadVocabulary(database(), "tix");
    expect(known.find(({ id }) => id === "hanna")?.trades).toEqual(["knots"]);
  });
});

describe("duties", () => {
  const set = (holders: DutyHolder[], by = INES) => setDuties(by, "TIX", { holders });
  const names = async (duty: Duty) =>
    (await dutyBound(database(), "tix", duty)).map((p) => p.id).sort();

  test("those who are named have one; where nobody is, every member", async () => {
    const members = await names("accepts");
    expect(members).not.toContain("arthur");
    await set([
      { duty: "tests", holderKind: "team", holderId: "platform" },
      { duty: "tests", holderKind: "person", holderId: "noor" },
      { duty: "plans", holderKind: "team", holderId: "timetables" },
    ]);
    // Of the team, those who belong to the project and work in it.
    expect(await names("tests")).toEqual(["greta", "hanna", "noor", "tomas"]);
    // Nobody of that team belongs to the project: as if nobody were named.
    expect(await names("plans")).toEqual(members);
  });

  test("only leads name somebody, and only who is there", async () => {
    const noor: DutyHolder = { duty: "tests", holderKind: "person", holderId: "noor" };
    expect(await refusalOf(set([noor], NOOR))).toBe("not allowed");
    expect(await refusalOf(set([{ ...noor, holderId: "oskar" }]))).toBe("invalid");
    expect(await refusalOf(set([{ ...noor, holderKind: "team" }]))).toBe("invalid");
    expect((await set([noor, noor])).duties).toEqual([noor]);
    const { changes } = await readDesignHistory(INES, "TIX");
    expect(changes[0]).toMatchObject({
      said: "changed who has which duty",
      differences: expect.arrayContaining([
        { what: "tests", old: "Noor Bakri, Platform", new: "Noor Bakri" },
      ]),
    });
  });
});
