import { z } from "zod";

/** A criterion of a scoring model: what is judged, on which scale, and how much it counts. */
export interface Criterion {
  id: string;
  name: string;
  /** The highest score, from 0 on. */
  scale: number;
  /** How much it counts beside the others; negative where more is worse, as effort. */
  weight: number;
  /** A number that the product knows instead of a judgement. */
  source: "judged" | "votes" | "estimate";
}

/** How the worth of requests is weighed in a project. */
export interface ScoringModel {
  criteria: Criterion[];
  /**
   * The own fields that say what a week of delay loses, and how many weeks of delay there are; null
   * where none does.
   */
  valueFieldId: string | null;
  weeksFieldId: string | null;
  /** Whether people can vote against an item too. */
  votesAgainst?: boolean;
}

export const FIRST_MODEL: ScoringModel = {
  criteria: [
    { id: "reach", name: "How many it helps", scale: 5, weight: 3, source: "judged" },
    { id: "pain", name: "How much it hurts without it", scale: 5, weight: 4, source: "judged" },
    { id: "goal", name: "How well it fits the goal", scale: 5, weight: 2, source: "judged" },
    { id: "votes", name: "Votes", scale: 20, weight: 1, source: "votes" },
  ],
  valueFieldId: null,
  weeksFieldId: null,
};

const id = z.string().min(1).max(64);

export const scoringModelSchema: z.ZodType<ScoringModel> = z
  .object({
    criteria: z
      .array(
        z.object({
          id,
          name: z.string().trim().min(1, "A criterion needs a name.").max(60),
          scale: z.number().int().min(1).max(1_000),
          weight: z.number().min(-100).max(100),
          source: z.enum(["judged", "votes", "estimate"]),
        }),
      )
      .max(20),
    valueFieldId: id.nullable(),
    weeksFieldId: id.nullable(),
    votesAgainst: z.boolean().optional(),
  })
  .superRefine((model, context) => {
    if (new Set(model.criteria.map((c) => c.name.toLowerCase())).size < model.criteria.length)
      context.addIssue({
        code: "custom",
        path: ["criteria"],
        message: "Two criteria have the same name.",
      });
  });

/** What is known of a request where it is scored. */
export interface Scored {
  id: string;
  /** By criterion, what people judged. */
  scores: Readonly<Record<string, number>>;
  votes: number;
  /** In the team's own unit; null where nobody has estimated. */
  estimate: number | null;
  /** Value lost in a week of delay, and weeks of delay; null where unknown. */
  valuePerWeek: number | null;
  weeks: number | null;
}

export interface ScoreParts {
  /**
   * Of 100: the weighted criteria, each as a share of its scale; null while a criterion is not
   * judged.
   */
  score: number | null;
  parts: { criterionId: string; share: number | null; points: number | null }[];
  /** Common practice: value lost per week × weeks of delay. */
  costOfDelay: number | null;
  /** Value lost per week ÷ duration: the order of weighted shortest job first (Smith 1956). */
  delayByDuration: number | null;
}

/**
 * The score of a request with its parts. Weights are made to sum up to 100 by their size; a
 * criterion of negative weight gives its points where the value is low.
 */
export function scoreOf(model: ScoringModel, request: Scored): ScoreParts {
  const total = model.criteria.reduce((sum, c) => sum + Math.abs(c.weight), 0);
  const parts = model.criteria.map((c) => {
    const value =
      c.source === "votes"
        ? request.votes
        : c.source === "estimate"
          ? request.estimate
          : (request.scores[c.id] ?? null);
    const share = value === null ? null : Math.min(1, Math.max(0, value / c.scale));
    // What does not count need not be judged.
    const points =
      c.weight === 0
        ? 0
        : share === null
          ? null
          : ((c.weight < 0 ? 1 - share : share) * Math.abs(c.weight) * 100) / total;
    return { criterionId: c.id, share, points };
  });
  const known = parts.length > 0 && total > 0 && parts.every((p) => p.points !== null);
  const { valuePerWeek, weeks, estimate } = request;
  return {
    score: known ? parts.reduce((sum, p) => sum + p.points!, 0) : null,
    parts,
    costOfDelay: valuePerWeek === null || weeks === null ? null : valuePerWeek * weeks,
    delayByDuration:
      valuePerWeek === null || estimate === null || estimate <= 0 ? null : valuePerWeek / estimate,
  };
}

export const SCORE_ORDERS = ["score", "cost of delay", "delay by duration", "votes"] as const;
export type ScoreOrder = (typeof SCORE_ORDERS)[number];

/**
 * A figure by which requests are ordered, highest first; what has none stands at the end, in the
 * order it had.
 */
export function orderBy<T extends { request: Scored; parts: ScoreParts }>(
  rows: readonly T[],
  order: ScoreOrder,
): T[] {
  const figure = ({ request, parts }: T) =>
    order === "score"
      ? parts.score
      : order === "cost of delay"
        ? parts.costOfDelay
        : order === "votes"
          ? request.votes
          : parts.delayByDuration;
  return [...rows]
    .map((row, i) => ({ row, i, value: figure(row) }))
    .sort((a, b) => (b.value ?? -Infinity) - (a.value ?? -Infinity) || a.i - b.i || 0)
    .map(({ row }) => row);
}

/** A job of a sequence: how long it takes, and what a unit of delay of it loses. */
export interface Job {
  duration: number;
  weight: number;
}

/** What a sequence of jobs loses, each until it is done: the sum of weight × completion time. */
export function totalWeightedDelay(jobs: readonly Job[]): number {
  let time = 0;
  return jobs.reduce((sum, { duration, weight }) => sum + weight * (time += duration), 0);
}

/**
 * Jobs in the order of weight ÷ duration, highest first, which loses least in total when one is
 * done after the other (W. E. Smith, "Various optimizers for single-stage production", Naval
 * Research Logistics Quarterly 3 (1956), 59–66).
 */
export function weightedShortestFirst<T extends Job>(jobs: readonly T[]): T[] {
  // What takes no time delays nothing, whatever it weighs: it goes first.
  const ratio = ({ weight, duration }: T) => (duration > 0 ? weight / duration : Infinity);
  return [...jobs].sort((a, b) => (ratio(a) === ratio(b) ? 0 : ratio(b) > ratio(a) ? 1 : -1));
}

/** A move that reordering makes: what goes where, told before it happens. */
export interface RankMove {
  id: string;
  from: number;
  to: number;
}

/** The moves from one order to another, for those that change their place; places count from 1. */
export function movesBetween(before: readonly string[], after: readonly string[]): RankMove[] {
  const was = new Map(before.map((itemId, i) => [itemId, i + 1]));
  return after.flatMap((itemId, i) =>
    was.get(itemId) === i + 1 ? [] : [{ id: itemId, from: was.get(itemId) ?? 0, to: i + 1 }],
  );
}
