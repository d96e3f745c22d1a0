import { z } from "zod";
import { asksPromise, conditionSchema } from "@/core/condition/condition";
import type { Cause } from "@/core/item/event";
import { EDITABLE_FIELDS, type EditableField } from "@/core/item/fields";
import { HAPPENED_KINDS, HAPPENED_WORDS, type Happened, type HappenedKind } from "./happened";
import { MAIL_WAYS } from "./ways";

/** What is addressed to people by name needs no rule of their own. */
const ADDRESSED = ["told", "pointed out", "shown"] as const;
type Addressed = (typeof ADDRESSED)[number];
export type RuleHappening = Exclude<HappenedKind, Addressed>;

/** What a rule of one's own can be about, in the order in which it is offered. */
export const RULE_HAPPENINGS = HAPPENED_KINDS.filter(
  (kind): kind is RuleHappening => !(ADDRESSED as readonly HappenedKind[]).includes(kind),
);

/** How what a rule is about is called: "it is sent back". */
export const ruleHappeningWords = (kind: RuleHappening): string => HAPPENED_WORDS[kind];

/** Fields whose change is told as one of its own kind. */
const TOLD_APART: ReadonlySet<EditableField> = new Set<EditableField>(["assigneeId", "dueOn"]);

/** The fields of every item that a rule about what else changes can name. */
export const CHANGING_FIELDS = EDITABLE_FIELDS.filter((field) => !TOLD_APART.has(field));

const ids = z.array(z.string().min(1).max(64)).min(1).max(50);

/** Who has to have done it. */
const doerSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("anybody") }),
  z.object({ kind: z.literal("people"), ids }),
  z.object({ kind: z.literal("teams"), ids }),
  z.object({ kind: z.literal("process") }),
  z.object({ kind: z.literal("requesters") }),
]);
export type Doer = z.output<typeof doerSchema>;

/** So many rules of their own somebody has at most. */
export const MOST_OWN_RULES = 60;

/** A rule of somebody's own: when what happens to which items, how they hear of it. */
export const ownRuleSchema = z
  .object({
    /** What it is called; a rule without a name is called by what it says. */
    name: z.string().trim().max(80, "Use at most 80 characters."),
    /** The key of a project; null for all that one may see. */
    projectKey: z.string().max(20).nullable(),
    /** None for every type. */
    typeIds: z.array(z.string().min(1).max(64)).max(50),
    /** None for anything. */
    happens: z.array(z.enum(RULE_HAPPENINGS as [RuleHappening, ...RuleHappening[]])).max(40),
    /** Of what else changes: in which fields; none for all of them. */
    fields: z.array(z.string().min(1).max(80)).max(50),
    by: doerSchema,
    condition: conditionSchema.nullable(),
    off: z.boolean(),
    mail: z.enum(MAIL_WAYS),
    feed: z.boolean(),
  })
  .superRefine((rule, context) => {
    const refuse = (message: string) => context.addIssue({ code: "custom", message });
    if (rule.projectKey === null && (rule.condition !== null || rule.typeIds.length > 0))
      refuse("Types and conditions are a project's: choose one first.");
    if (rule.projectKey === null && (rule.by.kind === "people" || rule.by.kind === "teams"))
      refuse("People and teams are named in a project: choose one first.");
    if (rule.fields.length > 0 && !rule.happens.includes("changed"))
      refuse(`Fields can be chosen where “${HAPPENED_WORDS.changed}” is among what happens.`);
    if (rule.condition && asksPromise(rule.condition))
      refuse("How promises stand can only be asked in views and their filters.");
  });

export type OwnRule = z.output<typeof ownRuleSchema>;

/** What a rule is unless somebody says otherwise: about anything, for the list alone. */
export const NEW_OWN_RULE: OwnRule = {
  name: "",
  projectKey: null,
  typeIds: [],
  happens: [],
  fields: [],
  by: { kind: "anybody" },
  condition: null,
  off: false,
  mail: "none",
  feed: false,
};

/** What a rule asks of what happened; the rest of it is asked of the item. */
export type RuleTrigger = Pick<OwnRule, "happens" | "fields" | "by">;

/** Who did a step, and why it was done. */
export interface StepDoer {
  personId: string | null;
  cause: Cause;
}

/** Causes of what nobody did by hand. */
const BY_PROCESS: ReadonlySet<Cause> = new Set<Cause>([
  "workflow change",
  "follow-up",
  "trigger",
  "outside",
  "upgrade",
]);

/**
 * The steps of an item's history that a rule is about.
 * @param doerOf who did a step, by its number; null for what stands in no history
 * @param membersOf who belongs to a team
 */
export function stepsMeant(
  { happens, fields, by }: RuleTrigger,
  {
    happened,
    doerOf,
    membersOf,
  }: {
    happened: readonly Happened[];
    doerOf: (seq: number) => StepDoer | null;
    membersOf: (teamId: string) => readonly string[];
  },
): number[] {
  const meant = happened.filter(
    (one) =>
      (happens.length === 0 || (happens as readonly HappenedKind[]).includes(one.kind)) &&
      inFields(one, fields) &&
      didIt(by, doerOf(one.seq), membersOf),
  );
  return [...new Set(meant.map(({ seq }) => seq))].sort((a, b) => a - b);
}

const inFields = ({ kind, field }: Happened, fields: readonly string[]): boolean =>
  fields.length === 0 || kind !== "changed" || (field !== undefined && fields.includes(field));

function didIt(
  by: Doer,
  doer: StepDoer | null,
  membersOf: (teamId: string) => readonly string[],
): boolean {
  if (by.kind === "anybody") return true;
  if (by.kind === "process") return doer === null || BY_PROCESS.has(doer.cause);
  if (doer === null) return false;
  if (by.kind === "requesters") return doer.cause === "requester";
  const { personId, cause } = doer;
  if (personId === null || BY_PROCESS.has(cause)) return false;
  return by.kind === "people"
    ? by.ids.includes(personId)
    : by.ids.some((teamId) => membersOf(teamId).includes(personId));
}
