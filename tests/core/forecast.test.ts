import fc from "fast-check";
import { Agenda } from "@/core/forecast/agenda";
import { seededRandom } from "@/core/forecast/random";
import { simulate, type Job, type ProcessModel } from "@/core/forecast/simulator";
import { runs } from "./setup/runs";

describe("the agenda of a simulation", () => {
  it("gives what was added in order of time, and equal times in the order they came", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 9 }), { maxLength: 60 }), (times) => {
        const agenda = new Agenda<number>();
        times.forEach((at, i) => agenda.add(at, i));
        expect(agenda.size).toBe(times.length);
        const taken = times.map(() => agenda.take()!);
        const wanted = times
          .map((at, what) => ({ at, what }))
          .sort((a, b) => a.at - b.at || a.what - b.what);
        expect(taken.map(({ at, what }) => ({ at, what }))).toEqual(wanted);
        expect(agenda.take()).toBeUndefined();
        expect(agenda.size).toBe(0);
      }),
      { numRuns: runs(200) },
    );
  });

  it("takes what comes in between into its order", () => {
    const agenda = new Agenda<string>();
    agenda.add(5, "later");
    agenda.add(1, "first");
    expect(agenda.take()?.what).toBe("first");
    agenda.add(3, "between");
    agenda.add(5, "last");
    expect(["a", "b", "c"].map(() => agenda.take()?.what)).toEqual(["between", "later", "last"]);
  });
});

describe("seeded random numbers", () => {
  const draws = <T>(count: number, draw: () => T) => Array.from({ length: count }, draw);
  const mean = (values: number[]) => values.reduce((sum, v) => sum + v, 0) / values.length;
  const deviation = (values: number[]) =>
    Math.sqrt(mean(values.map((v) => (v - mean(values)) ** 2)));

  // The 32-bit words of the same generator written in Python.
  it.each([
    [1, [2693262067, 11749833, 2265367787, 4213581821]],
    [2026, [1955961175, 1324980858, 2839649622, 2656330836]],
  ])("of seed %d are the words of the generator", (seed, words) => {
    const random = seededRandom(seed);
    expect(draws(4, () => random.next() * 2 ** 32)).toEqual(words);
  });

  it("are exponential with the mean asked for", () => {
    const random = seededRandom(7);
    const times = draws(4_000, () => random.exponential(3));
    // Its deviation is its mean; four standard errors are 0.19.
    expect(Math.abs(mean(times) - 3)).toBeLessThan(0.19);
    expect(Math.abs(deviation(times) - 3)).toBeLessThan(0.4);
    expect(Math.min(...times)).toBeGreaterThanOrEqual(0);
  });

  it("are log-normal with the median and the spread asked for", () => {
    const random = seededRandom(8);
    const logs = draws(4_000, () => Math.log(random.logNormal(5, 0.5)));
    expect(Math.abs(mean(logs) - Math.log(5))).toBeLessThan(0.032);
    expect(Math.abs(deviation(logs) - 0.5)).toBeLessThan(0.03);
    // About 68 % of a normal distribution is within one deviation, 95 % within two.
    const within = (by: number) =>
      logs.filter((l) => Math.abs(l - Math.log(5)) < by * 0.5).length / logs.length;
    expect(within(1)).toBeCloseTo(0.683, 1);
    expect(within(2)).toBeCloseTo(0.954, 1);
  });

  it("pick each index and value, none more often than another", () => {
    const random = seededRandom(9);
    const counts = [0, 0, 0, 0];
    for (const i of draws(4_000, () => random.index(4))) counts[i] += 1;
    expect(counts.every((n) => Math.abs(n - 1_000) < 110)).toBe(true);
    const picked = draws(400, () => random.pick(["bow", "stern"]));
    expect(picked.filter((p) => p === "bow").length).toBeGreaterThan(150);
    expect(picked.filter((p) => p === "stern").length).toBeGreaterThan(150);
    expect(() => random.pick([])).toThrow(new RangeError("nothing to pick from"));
  });

  it("say yes as often as was asked for", () => {
    const random = seededRandom(10);
    const yes = (p: number) => draws(4_000, () => random.chance(p)).filter(Boolean).length;
    expect(Math.abs(yes(0.25) - 1_000)).toBeLessThan(110);
    expect([yes(0), yes(1)]).toEqual([0, 4_000]);
  });
});

describe("a process worked through by hand", () => {
  const job = (id: number, arrivesAt: number, priority = 0): Job => ({ id, arrivesAt, priority });
  const takes = (minutes: number) => () => minutes;
  const random = seededRandom(1);
  const walk = (model: ProcessModel, jobs: Job[], until?: number) =>
    simulate(model, jobs, random, until).map((p) => [
      p.job.id,
      p.step,
      p.queuedAt,
      p.startedAt,
      p.finishedAt,
    ]);
  const gate = (servers: number, minutes: number): ProcessModel => ({
    steps: [{ servers, service: takes(minutes) }],
    next: () => null,
  });

  it("serves as many at once as there are servers", () => {
    const jobs = [job(1, 0), job(2, 0), job(3, 1)];
    expect(walk(gate(2, 10), jobs)).toEqual([
      [1, 0, 0, 0, 10],
      [2, 0, 0, 0, 10],
      [3, 0, 1, 10, 20],
    ]);
  });

  it("calls the lowest priority first, and leaves who is being served alone", () => {
    const jobs = [job(1, 0, 5), job(2, 1, 5), job(3, 2, 1)];
    expect(walk(gate(1, 10), jobs)).toEqual([
      [1, 0, 0, 0, 10],
      [2, 0, 1, 20, 30],
      [3, 0, 2, 10, 20],
    ]);
  });

  it("goes from step to step, and back where the model says so", () => {
    let returned = false;
    const model: ProcessModel = {
      steps: [
        { servers: 1, service: takes(2) },
        { servers: 1, service: takes(3) },
      ],
      next: (_, step) => {
        if (step === 0) return 1;
        if (returned) return null;
        returned = true;
        return 0;
      },
    };
    expect(walk(model, [job(1, 4)])).toEqual([
      [1, 0, 4, 4, 6],
      [1, 1, 6, 6, 9],
      [1, 0, 9, 9, 11],
      [1, 1, 11, 11, 14],
    ]);
  });

  it("ends at a time: what happens then still counts, what comes after is open", () => {
    const jobs = [job(1, 0), job(2, 5), job(3, 11)];
    expect(walk(gate(1, 10), jobs, 10)).toEqual([
      [1, 0, 0, 0, 10],
      [2, 0, 5, 10, null],
    ]);
  });

  it("refuses a step without a server and a time that is none", () => {
    expect(() => walk(gate(0, 1), [])).toThrow("every step needs at least one server");
    expect(() => walk(gate(Number.NaN, 1), [])).toThrow(RangeError);
    expect(() => walk(gate(1, 1), [])).not.toThrow();
    expect(() => walk(gate(1, -1), [job(1, 0)])).toThrow("a service time cannot be -1");
    expect(() => walk(gate(1, Number.NaN), [job(1, 0)])).toThrow(RangeError);
    expect(walk(gate(1, 0), [job(1, 3)])).toEqual([[1, 0, 3, 3, 3]]);
  });
});
