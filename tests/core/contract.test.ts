import { existsSync, readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import fc from "fast-check";
import { z } from "zod";
import { alertsContract } from "@/core/alerts/contract";
import { acrossContract } from "@/core/across/contract";
import { walkContract } from "@/core/walk/contract";
import { pinsContract } from "@/core/item/pins/contract";
import { boardContract } from "@/core/board/contract";
import { addressOf, contract, DONE, partsOf, type Contract } from "@/core/contract/contract";
import { findContract } from "@/core/find/contract";
import { flowContract } from "@/core/flow/contract";
import { intakeContract, reportContract } from "@/core/intake/contract";
import { requesterContract } from "@/core/intake/requester-contract";
import { itemContract, streamContract } from "@/core/item/contract";
import { bulkContract } from "@/core/item/bulk/contract";
import { addingContract } from "@/core/item/adding/contract";
import { itemTableContract } from "@/core/item/csv/contract";
import { listContract } from "@/core/item/list/contract";
import { healthContract, peopleContract, sessionContract } from "@/core/people/contract";
import { planContract } from "@/core/plan/contract";
import { acceptanceContract } from "@/core/ship/acceptance/contract";
import { publicAcceptanceContract } from "@/core/ship/acceptance/public-contract";
import { shipContract } from "@/core/ship/contract";
import { releaseContract } from "@/core/ship/release/contract";
import { testingContract } from "@/core/ship/testing/contract";
import { timelineContract } from "@/core/timeline/contract";
import { timeContract } from "@/core/time/contract";
import { todayContract } from "@/core/today/contract";
import { talkContract } from "@/core/talk/contract";
import { viewContract } from "@/core/view/contract";
import { workflowContract } from "@/core/workflow/contract";
import { keyOf, queryOf } from "@/ui/kit/request";

const ALL: Contract[] = [
  alertsContract,
  pinsContract,
  acrossContract,
  walkContract,
  boardContract,
  bulkContract,
  findContract,
  flowContract,
  intakeContract,
  itemContract,
  addingContract,
  itemTableContract,
  listContract,
  peopleContract,
  planContract,
  shipContract,
  acceptanceContract,
  publicAcceptanceContract,
  releaseContract,
  testingContract,
  reportContract,
  requesterContract,
  talkContract,
  timeContract,
  timelineContract,
  todayContract,
  viewContract,
  workflowContract,
  { streamContract, healthContract },
].flatMap((group) => Object.values<Contract>(group));

/** The file that Next serves an address from. */
const fileOf = (of: Contract) =>
  path.join("src/app", of.path.replace(/:(\w+)/g, "[$1]"), "route.ts");
const exportsOf = (file: string) =>
  [...readFileSync(file, "utf8").matchAll(/^export (?:const|async function) ([A-Z]+)\b/gm)].map(
    ([, method]) => method,
  );

test.each(ALL.map((of) => [of.method, of.path, of] as const))(
  "%s %s has a route",
  (method, _p, of) => {
    expect(existsSync(fileOf(of))).toBe(true);
    expect(exportsOf(fileOf(of))).toContain(method);
  },
);

test("every route has its contract", () => {
  const contracted = new Set(ALL.map((of) => `${of.method} ${fileOf(of)}`));
  const served = readdirSync("src/app/api", { recursive: true, encoding: "utf8" })
    .filter((name) => path.basename(name) === "route.ts")
    .map((name) => path.join("src/app/api", name))
    .flatMap((file) => exportsOf(file).map((method) => `${method} ${file}`));
  // The library for sessions has one route for all that it answers.
  const sessions = served.filter((s) => s.includes("/api/auth/"));
  expect(sessions).toHaveLength(2);
  expect(new Set(served.filter((s) => !sessions.includes(s)))).toEqual(contracted);
});

test("no two contracts are for the same thing, and what is kept is kept under a name of its own", () => {
  const all = [...ALL, ...Object.values<Contract>(sessionContract)];
  expect(new Set(all.map((of) => `${of.method} ${of.path}`)).size).toBe(all.length);
  const names = all.flatMap((of) => of.kept ?? []);
  expect(new Set(names).size).toBe(names.length);
});

const TWO = contract({
  method: "GET",
  path: "/api/a/:first/b/:second",
  query: z.object({ q: z.string().optional(), n: z.number().optional() }),
  answer: DONE,
  kept: "two",
});

describe("addresses", () => {
  test("have their parts and questions, as they can stand in an address", () => {
    const params = { first: "x/y", second: "ä?" };
    expect(addressOf(TWO, { params, query: { q: "a b&c", n: 0 } })).toBe(
      "/api/a/x%2Fy/b/%C3%A4%3F?q=a+b%26c&n=0",
    );
    expect(addressOf(TWO, { params, query: { q: "" } })).toBe("/api/a/x%2Fy/b/%C3%A4%3F");
    expect(partsOf(TWO, params)).toEqual(["x/y", "ä?"]);
  });

  test("say what is missing", () => {
    const params = { first: "x" } as { first: string; second: string };
    expect(() => addressOf(TWO, { params, query: {} })).toThrow("needs second");
  });

  test.each([".", ".."])("refuse %s, which would lead to another address", (second) => {
    expect(() => addressOf(TWO, { params: { first: "x", second }, query: {} })).toThrow(
      "cannot have",
    );
  });

  test("lead back to what was given, whatever it is", () => {
    const word = fc.string({ minLength: 1, unit: "grapheme" });
    const part = word.filter((text) => text !== "." && text !== "..");
    fc.assert(
      fc.property(part, part, word, (first, second, q) => {
        const address = addressOf(TWO, { params: { first, second }, query: { q } });
        const url = new URL(address, "http://localhost");
        const [, , , a, , b] = url.pathname.split("/");
        expect([decodeURIComponent(a), decodeURIComponent(b)]).toEqual([first, second]);
        expect(url.searchParams.get("q")).toBe(q);
      }),
    );
  });
});

test("what is kept of one thing begins with the key of all of its kind", () => {
  const params = { first: "x", second: "y" };
  const { queryKey } = queryOf(TWO, { params, query: { q: "z" } });
  expect(queryKey).toEqual([...keyOf(TWO, { params }), { q: "z" }]);
  expect(queryKey.slice(0, 1)).toEqual(keyOf(TWO));
});
