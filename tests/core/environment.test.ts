import {
  addressFor,
  environmentsBody,
  freezeOn,
  frozenOn,
  nextFreeze,
  type Environment,
} from "@/core/ship/environment";
import { mainHealth } from "@/core/ship/main-health";
import { notFrozen } from "@/core/workflow/requirements/not-frozen";
import type { RequirementContext } from "@/core/workflow/requirements/kind";

const ID = "019a0000-0000-7000-8000-00000000000";
const live = (more: Partial<Environment> = {}): Environment => ({
  ...{ id: `${ID}1`, name: "live", address: "", live: true, freezes: [] },
  ...more,
});
const midwinter = { id: `${ID}2`, from: "2026-12-24", until: "2027-01-02", why: "full boats" };
const frozen = live({
  freezes: [{ ...midwinter, id: `${ID}3`, from: "2027-04-01", until: "2027-04-03" }, midwinter],
});

describe("frozen days", () => {
  test("begin and end with their own day", () => {
    const on = (day: string) => freezeOn(frozen, day)?.id;
    expect([on("2026-12-23"), on("2026-12-24"), on("2027-01-02"), on("2027-01-03")]).toEqual([
      ...[undefined, midwinter.id, midwinter.id, undefined],
    ]);
  });

  test("the next ones are those that are not over, whatever their order", () => {
    expect(nextFreeze(frozen, "2026-11-29")?.id).toBe(midwinter.id);
    expect(nextFreeze(frozen, "2027-01-03")?.from).toBe("2027-04-01");
    expect(nextFreeze(frozen, "2027-04-04")).toBeUndefined();
  });

  test("a move that demands it is refused on them, in words, and free on others", () => {
    const move = (day: string) =>
      notFrozen.unmet({ environment: "Live" }, {
        frozen: frozenOn([frozen], day),
      } as unknown as RequirementContext);
    expect(move("2026-12-25")?.sentence).toBe("live is frozen until 2 Jan: full boats.");
    expect(move("2026-12-23")).toBeNull();
  });
});

describe("environments as they are stored", () => {
  const errors = (...environments: Environment[]) =>
    environmentsBody.safeParse({ environments }).error?.issues.map(({ message }) => message) ?? [];

  test("are called differently, and one alone is live", () => {
    expect(errors(live(), live({ id: `${ID}4`, name: " LIVE ", live: false }))).toEqual([
      "Two environments have the same name.",
    ]);
    expect(errors(live(), live({ id: `${ID}4`, name: "other" }))).toEqual([
      "Only one environment is live.",
    ]);
  });

  test("have addresses of the web, in which the key has its place", () => {
    expect(errors(live({ address: "javascript:alert(1)" }))).toHaveLength(1);
    const address = "https://test.example/{key}?of={key}";
    expect(errors(live({ address }))).toEqual([]);
    expect(addressFor({ address }, "TIX-7")).toBe("https://test.example/TIX-7?of=TIX-7");
    expect(addressFor({ address: "" }, "TIX-7")).toBeNull();
  });

  test("are frozen on days that there are, the first before the last", () => {
    const wrong = (from: string, until: string) =>
      errors(live({ freezes: [{ ...midwinter, from, until }] }));
    expect(wrong("2026-02-30", "2026-03-02")).toEqual(["This is no day."]);
    expect(wrong("2026-03-02", "2026-03-01")).toEqual(["A freeze ends after it begins."]);
    expect(wrong("2026-03-02", "2026-03-02")).toEqual([]);
  });
});

describe("main", () => {
  /** Latest first, as they ended: + for passed. */
  const health = (runs: string) =>
    mainHealth(
      [...runs].map((one, i) => ({ commit: `c${i}`, passed: one === "+", endedAt: 100 - i })),
    );

  test.each([
    ["", null],
    ["+", { clean: true, since: 100, commit: "c0" }],
    ["++-+", { clean: true, since: 99, commit: "c1" }],
    ["---+", { clean: false, since: 98, commit: "c2" }],
    ["--", { clean: false, since: 99, commit: "c1" }],
  ])("%s", (runs, told) => expect(health(runs)).toEqual(told));
});
