import { keysIn } from "@/core/item/key";
import { z } from "zod";
import type { OutsideFact } from "@/core/item/outside";
import type { CloudEvent } from "./cloud-event";

/** What an event of a code host or a pipeline says about items. */
export interface DeliveryNews {
  fact: OutsideFact;
  /** Keys of the items that it names. */
  itemKeys: string[];
  /** The commit that was checked, where it says so. */
  commit?: string;
  /** Changes that it is about: items that belong to them are meant too. */
  changes: string[];
}

const text = z.string().max(500);

/**
 * The parts of a CDEvents document (cdevents.dev, v0.4) that are looked at; what else stands there
 * is passed over.
 */
const documentSchema = z.looseObject({
  subject: z.looseObject({
    id: text,
    content: z
      .looseObject({
        outcome: text.optional(),
        environment: z.looseObject({ id: text }).optional(),
        change: z.looseObject({ id: text }).optional(),
      })
      .default({}),
  }),
  customData: z
    .looseObject({
      items: z.array(text).max(100).optional(),
      changes: z.array(text).max(100).optional(),
      change: text.optional(),
      verdict: text.optional(),
      commit: text.optional(),
    })
    .optional(),
});

const TYPE = /^dev\.cdevents\.([a-z]+)\.([a-z]+)\./;

const GOOD = new Set(["success", "pass", "passed"]);

/** Whether an outcome, as pipelines name theirs, says that it went well. */
export const wentWell = (outcome: string | undefined): boolean =>
  GOOD.has((outcome ?? "").toLowerCase());

/**
 * Reads an event of the kinds that CDEvents names. Whether a review approved a change or sent it
 * back is not part of CDEvents: it stands in `customData.verdict`; which items are meant, in
 * `customData.items`, or as keys in the texts of `customData`.
 * @returns null for an event of a kind that says nothing about items
 * @throws ZodError when it is of such a kind and lacks what it needs
 */
export function readDeliveryEvent(event: CloudEvent): DeliveryNews | null {
  const [, subject, predicate] = TYPE.exec(event.type) ?? [];
  if (!subject || !KINDS.has(`${subject}.${predicate}`)) return null;
  const document = documentSchema.parse(event.data);
  const { customData = {}, subject: about } = document;
  const change =
    subject === "change"
      ? about.id
      : (about.content.change?.id ?? customData.change ?? customData.changes?.[0]);
  const fact = factOf(`${subject}.${predicate}`, about.id, {
    change,
    outcome: about.content.outcome,
    environment: about.content.environment?.id,
    verdict: customData.verdict,
  });
  if (!fact) return null;
  const named = [about.id, ...strings(customData)].flatMap(keysIn);
  return {
    fact,
    itemKeys: [...new Set(named)],
    ...(customData.commit === undefined ? {} : { commit: customData.commit }),
    changes: [...new Set([...(change ? [change] : []), ...(customData.changes ?? [])])],
  };
}

const KINDS = new Set([
  "change.created",
  "change.merged",
  "change.abandoned",
  "change.reviewed",
  "pipelinerun.started",
  "pipelinerun.finished",
  "testsuiterun.finished",
  "testcaserun.finished",
  "service.deployed",
  "service.upgraded",
]);

/** What an event says beside its kind and what it is about. */
type Said = Partial<Record<"change" | "outcome" | "environment" | "verdict", string>>;

function factOf(
  kind: string,
  id: string,
  { change, outcome, environment, verdict }: Said,
): OutsideFact | null {
  const passed = wentWell(outcome);
  switch (kind) {
    case "change.created":
      return { kind: "change opened", change: id };
    case "change.merged":
      return { kind: "change merged", change: id };
    case "change.abandoned":
      return { kind: "change abandoned", change: id };
    case "change.reviewed":
      if (verdict === "approved") return { kind: "review approved", change: id };
      return verdict === "sent back" ? { kind: "review sent back", change: id } : null;
    case "pipelinerun.started":
      return change ? { kind: "checks started", change } : null;
    case "pipelinerun.finished":
      return change ? { kind: passed ? "checks passed" : "checks failed", change } : null;
    case "service.deployed":
    case "service.upgraded":
      return environment ? { kind: "deployed", environment } : null;
    default:
      return { kind: passed ? "test run passed" : "test run failed", run: id };
  }
}

/** All texts in a value, a few levels deep. */
function strings(value: unknown, depth = 0): string[] {
  if (typeof value === "string") return [value];
  if (depth > 3 || typeof value !== "object" || value === null) return [];
  return Object.values(value).flatMap((v) => strings(v, depth + 1));
}
