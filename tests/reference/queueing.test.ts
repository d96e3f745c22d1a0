import { Agenda } from "@/core/forecast/agenda";
import { seededRandom } from "@/core/forecast/random";
import { simulate, type Job, type ProcessModel } from "@/core/forecast/simulator";

/**
 * Probability that an arrival has to wait in M/M/c, Erlang C: D. Gross and C. Harris, Fundamentals
 * of Queueing Theory, M/M/c.
 */
function erlangC(servers: number, load: number): number {
  let inverse = 1; // of Erlang B, by its recursion 1/B(c) = 1 + (c / a) / B(c − 1)
  for (let c = 1; c <= servers; c++) inverse = 1 + (c / load) * inverse;
  const blocking = 1 / inverse;
  return blocking / (1 - (load / servers) * (1 - blocking));
}

/** Mean wait in the queue of M/M/c. */
const meanWait = (servers: number, arrivals: number, service: number) =>
  erlangC(servers, arrivals * service) / (servers / service - arrivals);

/*
 * Printed tables of Erlang C, e.g. 2 servers at 1 erlang wait with 1/3, 1 server waits with its
 * load.
 */
test("the closed form itself", () => {
  expect(erlangC(1, 0.7)).toBeCloseTo(0.7, 12);
  expect(erlangC(2, 1)).toBeCloseTo(1 / 3, 12);
  expect(erlangC(3, 2)).toBeCloseTo(4 / 9, 12);
});

function runMMc(servers: number, arrivals: number, service: number, seed: number, jobs: number) {
  const random = seededRandom(seed);
  let at = 0;
  const list: Job[] = Array.from({ length: jobs }, (_, id) => ({
    id,
    arrivesAt: (at += random.exponential(1 / arrivals)),
    priority: 0,
  }));
  const model: ProcessModel = {
    steps: [{ servers, service: (_job, r) => r.exponential(service) }],
    next: () => null,
  };
  // The first tenth fills the empty system and does not count.
  return simulate(model, list, random).slice(jobs / 10);
}

/*
 * 40 independent runs of 8,000 arrivals each; the closed form must lie within the 99.9 % confidence
 * interval of the mean of the run means (Student's t with 39 degrees of freedom: 3.56). The seeds
 * are fixed, so this either holds or not.
 */
test.each([
  [1, 0.7, 1],
  [2, 1.6, 1],
  [3, 2, 1],
  [5, 2, 2],
])("M/M/%i with λ %f and mean service %f waits as Erlang C says", (servers, arrivals, service) => {
  const runs = Array.from({ length: 40 }, (_, seed) => {
    const passages = runMMc(servers, arrivals, service, 1_000 + seed, 8_000);
    const waits = passages.map((p) => p.startedAt! - p.queuedAt);
    return {
      wait: waits.reduce((a, b) => a + b, 0) / waits.length,
      waited: waits.filter((w) => w > 0).length / waits.length,
    };
  });
  for (const [values, expected] of [
    [runs.map((r) => r.wait), meanWait(servers, arrivals, service)],
    [runs.map((r) => r.waited), erlangC(servers, arrivals * service)],
  ] as const) {
    const mean = values.reduce((a, b) => a + b, 0) / values.length;
    const deviation = Math.sqrt(
      values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / (values.length - 1),
    );
    const halfWidth = (3.56 * deviation) / Math.sqrt(values.length);
    expect(Math.abs(mean - expected)).toBeLessThan(halfWidth);
    expect(halfWidth).toBeLessThan(0.12 * expected);
  }
});

/*
 * A tandem line with fixed times, worked by hand: two steps of 2 and 3 hours, one server each,
 * arrivals at 0, 1 and 2.
 */
test("a deterministic tandem line", () => {
  const jobs = [0, 1, 2].map((arrivesAt, id) => ({ id, arrivesAt, priority: 0 }));
  const model: ProcessModel = {
    steps: [
      { servers: 1, service: () => 2 },
      { servers: 1, service: () => 3 },
    ],
    next: (_j, step) => (step === 0 ? 1 : null),
  };
  const rows = simulate(model, jobs, seededRandom(1)).map((p) => [
    p.job.id,
    p.step,
    p.queuedAt,
    p.startedAt,
    p.finishedAt,
  ]);
  expect(rows.sort((a, b) => a[0]! - b[0]! || a[1]! - b[1]!)).toEqual([
    [0, 0, 0, 0, 2],
    [0, 1, 2, 2, 5],
    [1, 0, 1, 2, 4],
    [1, 1, 4, 5, 8],
    [2, 0, 2, 4, 6],
    [2, 1, 6, 8, 11],
  ]);
});

test("priority goes first, a return takes its way again, and what has not happened at the end stays open", () => {
  const jobs = [
    { id: 0, arrivesAt: 0, priority: 2 },
    { id: 1, arrivesAt: 0.5, priority: 2 },
    { id: 2, arrivesAt: 0.6, priority: 0 },
  ];
  let returned = false;
  const model: ProcessModel = {
    steps: [{ servers: 1, service: () => 1 }],
    next: (job) => (job.id === 2 && !returned ? ((returned = true), 0) : null),
  };
  const order = simulate(model, jobs, seededRandom(1), 3.5)
    .filter((p) => p.startedAt !== null)
    .map((p) => [p.job.id, p.startedAt, p.finishedAt]);
  // The freed server takes who is waiting before the job that returns in the same moment has joined
  // the line.
  expect(order).toEqual([
    [0, 0, 1],
    [1, 2, 3],
    [2, 1, 2],
    [2, 3, null],
  ]);
  expect(() =>
    simulate({ ...model, steps: [{ servers: 0, service: () => 1 }] }, jobs, seededRandom(1)),
  ).toThrow(RangeError);
  expect(() =>
    simulate({ ...model, steps: [{ servers: 1, service: () => NaN }] }, jobs, seededRandom(1)),
  ).toThrow(RangeError);
});

test("the agenda gives entries back in order of time, equal times in the order they came", () => {
  const random = seededRandom(5);
  const agenda = new Agenda<number>();
  const entries = Array.from({ length: 2_000 }, (_, n) => ({ at: random.index(100), n }));
  for (const { at, n } of entries) agenda.add(at, n);
  const taken = Array.from({ length: 2_000 }, () => agenda.take()!.what);
  expect(taken).toEqual([...entries].sort((a, b) => a.at - b.at || a.n - b.n).map((e) => e.n));
  expect(agenda.take()).toBeUndefined();
});

test("the random source is the same for the same seed, and has the moments it promises", () => {
  const a = seededRandom(7);
  const b = seededRandom(7);
  expect(Array.from({ length: 5 }, a.next)).toEqual(Array.from({ length: 5 }, b.next));
  const n = 200_000;
  const random = seededRandom(99);
  const mean = (draw: () => number) =>
    Array.from({ length: n }, draw).reduce((x, y) => x + y, 0) / n;
  expect(mean(random.next)).toBeCloseTo(0.5, 2);
  expect(mean(() => random.exponential(3))).toBeCloseTo(3, 1);
  expect(mean(() => Math.log(random.logNormal(5, 0.5)))).toBeCloseTo(Math.log(5), 2);
  expect(() => random.pick([])).toThrow(RangeError);
});
