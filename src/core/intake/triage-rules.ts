import { z } from "zod";
import { DAY, type Instant } from "@/core/calendar/instant";
import { PRIORITIES, type Priority } from "@/core/item/fields";

/** How many are hit, and how hard. */
export const IMPACTS = ["one person", "some people", "many people", "everybody"] as const;
export type Impact = (typeof IMPACTS)[number];

/** How long it can wait. */
export const URGENCIES = ["can wait", "this month", "this week", "today"] as const;
export type Urgency = (typeof URGENCIES)[number];

/** The priority that follows from impact and urgency; one row an impact, one column an urgency. */
export type PriorityGrid = Record<Impact, Record<Urgency, Priority>>;

/** A question that is asked often. */
export interface QuestionTemplate {
  id: string;
  name: string;
  text: string;
}

/** What a project has agreed on for its triage. */
export interface TriageRules {
  grid: PriorityGrid;
  questions: QuestionTemplate[];
  declineReasons: string[];
  /**
   * How many items one person works on at once; null for no limit. Advice for choosing an owner.
   */
  personLimit: number | null;
  /** Days after which an unanswered question is asked again; null for never. */
  remindAfterDays: number | null;
  /** Days after the question at which an unanswered report ends; null for never. */
  endAfterDays: number | null;
  /** What the requester reads when it ends unanswered. */
  endWords: string;
}

const row = z.object(
  Object.fromEntries(URGENCIES.map((u) => [u, z.enum(PRIORITIES)])) as Record<
    Urgency,
    z.ZodEnum<{ [P in Priority]: P }>
  >,
);
const days = z.number().int().min(1, "At least one day.").max(365).nullable();

export const triageRulesSchema: z.ZodType<TriageRules> = z
  .object({
    grid: z.object(Object.fromEntries(IMPACTS.map((i) => [i, row])) as Record<Impact, typeof row>),
    questions: z
      .array(
        z.object({
          id: z.string().min(1).max(64),
          name: z.string().trim().min(1, "A template needs a name.").max(60),
          text: z.string().trim().min(1, "A template needs its text.").max(5_000),
        }),
      )
      .max(40),
    declineReasons: z.array(z.string().trim().min(1, "A reason needs words.").max(2_000)).max(40),
    personLimit: z.number().int().min(1).max(50).nullable(),
    remindAfterDays: days,
    endAfterDays: days,
    endWords: z.string().trim().min(1, "The requester reads why it ended.").max(2_000),
  })
  .superRefine((rules, context) => {
    if (
      rules.remindAfterDays !== null &&
      rules.endAfterDays !== null &&
      rules.endAfterDays <= rules.remindAfterDays
    )
      context.addIssue({
        code: "custom",
        path: ["endAfterDays"],
        message: "A report ends only after its reminder had time to be answered.",
      });
    if (new Set(rules.questions.map((q) => q.id)).size < rules.questions.length)
      context.addIssue({
        code: "custom",
        path: ["questions"],
        message: "Two templates have the same id.",
      });
  });

/** A grid in which impact and urgency count alike: the priority rises with their sum. */
function risingGrid(): PriorityGrid {
  const of = (i: number, u: number): Priority =>
    i + u >= 5 ? "urgent" : i + u >= 4 ? "high" : i + u >= 2 ? "normal" : "low";
  return Object.fromEntries(
    IMPACTS.map((impact, i) => [
      impact,
      Object.fromEntries(URGENCIES.map((urgency, u) => [urgency, of(i, u)])),
    ]),
  ) as PriorityGrid;
}

export const FIRST_TRIAGE_RULES: TriageRules = {
  grid: risingGrid(),
  questions: [
    {
      id: "steps",
      name: "Steps",
      text: "Could you tell us step by step what you did, so that we can make it happen here?",
    },
    {
      id: "where",
      name: "Where and with what",
      text: "Where were you, with which device, and which version does it show?",
    },
    {
      id: "when",
      name: "When",
      text: "On which day and at about what time did it happen? Did it happen again since?",
    },
  ],
  declineReasons: [
    "This is how it is meant to work.",
    "We understand the wish, but it does not fit what we can do.",
    "This is not in our hands.",
  ],
  personLimit: 2,
  remindAfterDays: 4,
  endAfterDays: 14,
  endWords:
    "We have not heard from you, so we end this here. If it still happens, answer on this page or send it again: we will look at it.",
};

/** The priority that the grid proposes. */
export const proposedPriority = (grid: PriorityGrid, impact: Impact, urgency: Urgency): Priority =>
  grid[impact][urgency];

/** What is due for a report whose question is not answered. */
export type AskedDue = "nothing" | "remind" | "end";

/** @param askedAt the last question @param remindedAt the last reminder since, if any */
export function askedDue(
  { remindAfterDays, endAfterDays }: Pick<TriageRules, "remindAfterDays" | "endAfterDays">,
  askedAt: Instant,
  remindedAt: Instant | null,
  now: Instant,
): AskedDue {
  if (endAfterDays !== null && now >= askedAt + endAfterDays * DAY) return "end";
  if (remindAfterDays !== null && remindedAt === null && now >= askedAt + remindAfterDays * DAY)
    return "remind";
  return "nothing";
}
