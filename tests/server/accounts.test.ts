import { and, eq } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import { nameKey, nameSchema } from "@/core/people/name";
import { database } from "@/db/connection";
import { account, installation, passwordLink, person, session } from "@/db/schema";
import {
  editAccounts,
  readAccounts,
  readWelcome,
  setPasswordByLink,
  signUp,
} from "@/server/people/accounts";
import { mayMakeAccount, nobodyYet, signUpSetting, worldOf } from "@/server/people/installation";
import { refusalOf } from "./setup/board";
import { GRETA, INES, NOOR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";
import { accountBody } from "@/core/people/request";

givenTestDatabase();
process.env.BETTER_AUTH_SECRET = "tests-only-secret-of-more-than-32-letters-0123456789";

const make = (name: string, email: string) =>
  editAccounts(GRETA, accountBody.parse({ kind: "make", name, email }));
const welcomed = (token: string, now?: number) => refusalOf(readWelcome(token, now));

describe("names", () => {
  test.each(["Ada", "Zoë Núñez-O’Brien", "李 小龍", "R. Quill (night)", "Åse 2"])(
    "%s can be a name",
    (name) => expect(nameSchema.parse(`  ${name}  `)).toBe(name),
  );
  test.each([
    "",
    "   ",
    "x".repeat(81),
    "Ada\u202Eadl",
    "Ada\u200b",
    "<b>Ada</b>",
    "Ada\u0000",
    "-Ada",
    "ada@post",
  ])("%j cannot", (name) => expect(nameSchema.safeParse(name).success).toBe(false));
  test("gaps are one space, line ends too", () =>
    expect(nameSchema.parse("Ada\n\t Quill")).toBe("Ada Quill"));
  test("names that read the same are the same", () => {
    for (const twin of ["ines dahl", "INES  DAHL", "Ｉｎｅｓ Dahl", "Ines-Dahl"])
      expect(nameKey(twin)).toBe(nameKey("Ines Dahl"));
    expect(nameKey("Ines Dohl")).not.toBe(nameKey("Ines Dahl"));
  });
});

describe("accounts", () => {
  test("are for administrators alone", async () => {
    for (const viewer of [INES, NOOR]) {
      expect(await refusalOf(readAccounts(viewer))).toBe("not allowed");
      expect(await refusalOf(editAccounts(viewer, { kind: "link", personId: "arthur" }))).toBe(
        "not allowed",
      );
    }
  });

  test("nobody takes the name or the address of another, however it is written", async () => {
    expect(await refusalOf(make("INES DAHL", "another@saltmarsh.example"))).toBe("invalid");
    expect(await refusalOf(make("Somebody Else", "Ines.Dahl@saltmarsh.example"))).toBe("invalid");
    const made = await Promise.allSettled(
      Array.from({ length: 4 }, (_, i) => make("Runa Holt", `runa${i}@saltmarsh.example`)),
    );
    expect(made.filter((m) => m.status === "fulfilled")).toHaveLength(1);
  });

  test("a link sets the password once, ends all sessions, and is kept as a digest only", async () => {
    const { token, personId } = await make("Pell Marram", "pell@saltmarsh.example");
    await database()
      .insert(session)
      .values({ id: "s", token: "t", userId: personId, expiresAt: new Date(Date.now() + 1e6) });
    expect(JSON.stringify(await database().select().from(passwordLink))).not.toContain(token);
    expect(await readWelcome(token)).toEqual({
      name: "Pell Marram",
      email: "pell@saltmarsh.example",
    });
    const tries = await Promise.allSettled(
      [1, 2, 3].map((n) => setPasswordByLink(token, `long-enough-${n}`)),
    );
    expect(tries.filter((t) => t.status === "fulfilled")).toHaveLength(1);
    expect(await welcomed(token)).toBe("not found");
    expect(await database().select().from(session).where(eq(session.userId, personId))).toEqual([]);
    const [stored] = await database()
      .select()
      .from(account)
      .where(and(eq(account.userId, personId), eq(account.providerId, "credential")));
    expect(stored.password).toMatch(/^[0-9a-f]+:[0-9a-f]+$/);
  });

  test("a link ends after seven days, or when a newer one is made", async () => {
    const first = await make("Sela Tarn", "sela@saltmarsh.example");
    expect(await welcomed(first.token, Date.now() + 6.9 * DAY)).toBe("nothing refused");
    expect(await welcomed(first.token, Date.now() + 7.1 * DAY)).toBe("not found");
    const second = await editAccounts(GRETA, { kind: "link", personId: first.personId });
    expect([await welcomed(first.token), await welcomed(second.token)]).toEqual([
      "not found",
      "nothing refused",
    ]);
    expect(await welcomed("../../etc")).toBe("not found");
    expect((await readAccounts(GRETA)).accounts.find((a) => a.id === first.personId)).toMatchObject(
      { linkUntil: second.until, hasPassword: false },
    );
  });
});

describe("who may make an account by themselves", () => {
  const asking = { name: "Newcomer", email: "new@saltmarsh.example", password: "long-enough-1" };
  test("nobody, where there are people; everybody, where a setting says so", async () => {
    expect([
      signUpSetting(undefined),
      signUpSetting("open"),
      signUpSetting("closed"),
      signUpSetting("yes"),
    ]).toEqual(["first", "open", "closed", "first"]);
    expect(await mayMakeAccount()).toBe(false);
    expect(await refusalOf(signUp(asking, async () => 1))).toBe("not allowed");
    process.env.ZIGZAG_SIGN_UP = "open";
    expect(await mayMakeAccount()).toBe(true);
    expect(await refusalOf(signUp({ ...asking, name: "Noor Bakri" }, async () => 1))).toBe(
      "invalid",
    );
    delete process.env.ZIGZAG_SIGN_UP;
  });

  test("of many who come first at once, one is first", async () => {
    // As in an empty product: nobody but the one who makes the account now.
    await database().transaction(async (tx) => {
      await tx.execute("truncate person cascade");
    });
    expect(await nobodyYet()).toBe(true);
    const administrators: boolean[] = [];
    const come = (n: number) =>
      signUp({ ...asking, name: `First ${n}`, email: `first${n}@saltmarsh.example` }, async () => {
        const administrator = await nobodyYet();
        await new Promise((resolve) => setTimeout(resolve, 20));
        await database()
          .insert(person)
          .values({
            id: `first-${n}`,
            name: `First ${n}`,
            email: `first${n}@saltmarsh.example`,
            administrator,
          });
        administrators.push(administrator);
      });
    const came = await Promise.allSettled([1, 2, 3, 4].map(come));
    expect(came.filter((c) => c.status === "fulfilled")).toHaveLength(1);
    expect(administrators).toEqual([true]);
  });

  test("what the database was begun with is decided once", async () => {
    expect(await worldOf()).toBe("demo");
    expect(await database().select({ world: installation.world }).from(installation)).toEqual([
      { world: "demo" },
    ]);
  });
});
