import type { Random } from "./random";
import { Agenda } from "./agenda";

/** Something that passes through the simulated process. */
export interface Job {
  id: number;
  /** In the units of the service times, from the start of the simulation. */
  arrivesAt: number;
  /**
   * Lower goes first where several wait; equal ones go in the order in which they began to wait.
   */
  priority: number;
}

/**
 * A step of the process: a queue in front of some servers (people, places), each serving one job at
 * a time.
 */
export interface Step {
  servers: number;
  service: (job: Job, random: Random) => number;
}

export interface ProcessModel {
  steps: Step[];
  /**
   * Where a job goes after a step: an index into `steps` (an earlier one is a return), or null when
   * it leaves.
   */
  next: (job: Job, step: number, random: Random) => number | null;
}

/** One visit of a job to a step. Null: had not happened when the simulation ended. */
export interface Passage {
  job: Job;
  step: number;
  queuedAt: number;
  startedAt: number | null;
  finishedAt: number | null;
}

type Happening = { kind: "queue"; job: Job; step: number } | { kind: "finish"; passage: Passage };

/**
 * Simulates jobs through a network of queues by discrete events, without pre-emption.
 * Deterministic for a given random source.
 * @param jobs arrive at the first step; any order
 * @param until passages that begin to queue later are left out, and later starts and finishes stay
 *   null
 * @throws RangeError when a step has no server or a service time is negative or not a number
 */
export function simulate(
  model: ProcessModel,
  jobs: readonly Job[],
  random: Random,
  until = Infinity,
): Passage[] {
  if (model.steps.some((s) => !(s.servers >= 1)))
    throw new RangeError("every step needs at least one server");
  const agenda = new Agenda<Happening>();
  const waiting = model.steps.map(() => new Agenda<Passage>());
  const free = model.steps.map((s) => s.servers);
  const passages: Passage[] = [];
  for (const job of jobs) agenda.add(job.arrivesAt, { kind: "queue", job, step: 0 });

  const start = (step: number, at: number) => {
    while (free[step] > 0 && waiting[step].size > 0) {
      const passage = waiting[step].take()!.what;
      const service = model.steps[step].service(passage.job, random);
      if (!(service >= 0)) throw new RangeError(`a service time cannot be ${service}`);
      free[step] -= 1;
      passage.startedAt = at;
      agenda.add(at + service, { kind: "finish", passage });
    }
  };

  for (let entry = agenda.take(); entry && entry.at <= until; entry = agenda.take()) {
    const { at, what } = entry;
    if (what.kind === "queue") {
      const passage: Passage = {
        job: what.job,
        step: what.step,
        queuedAt: at,
        startedAt: null,
        finishedAt: null,
      };
      passages.push(passage);
      // A waiting line sorted by priority: the agenda keeps equal priorities in the order they
      // came.
      waiting[what.step].add(what.job.priority, passage);
      start(what.step, at);
    } else {
      const { passage } = what;
      passage.finishedAt = at;
      free[passage.step] += 1;
      const next = model.next(passage.job, passage.step, random);
      if (next !== null) agenda.add(at, { kind: "queue", job: passage.job, step: next });
      start(passage.step, at);
    }
  }
  return passages;
}
