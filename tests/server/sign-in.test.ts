import { tryNewAccount, trySignIn } from "@/server/people/sign-in-limit";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const INES = "ines.dahl@saltmarsh.example";
const MINUTES = 60_000;
const many = async (n: number, make: (i: number) => Promise<{ allowed: boolean }>) =>
  (await Promise.all(Array.from({ length: n }, (_, i) => make(i)))).filter((t) => t.allowed).length;

describe("tries to sign in", () => {
  test("at one account are counted together, wherever they come from, all at once too", async () => {
    expect(await many(40, (i) => trySignIn(INES, `203.0.113.${i}`, 0))).toBe(10);
    expect((await trySignIn(INES.toUpperCase(), "203.0.113.200", 5 * MINUTES)).allowed).toBe(false);
    expect((await trySignIn(INES, "203.0.113.201", 16 * MINUTES)).allowed).toBe(true);
  });

  test("nobody elsewhere locks a person out of where they have been signed in", async () => {
    const noor = "noor.bakri@saltmarsh.example";
    await (await trySignIn(noor, "198.51.100.4", 20 * MINUTES)).succeed();
    await many(20, (i) => trySignIn(noor, `203.0.113.${i}`, 40 * MINUTES));
    expect((await trySignIn(noor, "203.0.113.99", 40 * MINUTES)).allowed).toBe(false);
    expect((await trySignIn(noor, "198.51.100.4", 40 * MINUTES)).allowed).toBe(true);
    expect(await many(20, () => trySignIn(noor, "198.51.100.4", 40 * MINUTES))).toBe(9);
  });

  test("from one address are counted too, whoever they are at; another address is free", async () => {
    expect(
      await many(80, (i) => trySignIn(`nobody${i}@saltmarsh.example`, "192.0.2.1", 80 * MINUTES)),
    ).toBe(50);
    expect((await trySignIn("nobody@saltmarsh.example", "192.0.2.2", 80 * MINUTES)).allowed).toBe(
      true,
    );
  });

  test("a good one does not count", async () => {
    for (let i = 0; i < 60; i++) {
      const attempt = await trySignIn("tomas.kerr@saltmarsh.example", "192.0.2.9", 120 * MINUTES);
      expect(attempt.allowed).toBe(true);
      await attempt.succeed();
    }
  });

  test("how long to wait is said", async () => {
    await many(12, () => trySignIn("somebody@saltmarsh.example", "192.0.2.20", 150 * MINUTES));
    expect(
      await trySignIn("somebody@saltmarsh.example", "192.0.2.20", 155 * MINUTES),
    ).toMatchObject({ allowed: false, retryAfter: 10 * 60 });
  });

  test("new accounts from one address are few", async () => {
    expect(await many(9, () => tryNewAccount("192.0.2.30", 0))).toBe(5);
  });
});
