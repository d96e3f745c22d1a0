import { z } from "zod";
import { workflowSchema } from "@/core/workflow/definition";
import { itemTypeSchema, levelNamesSchema } from "@/core/item/item-type";

const id = z.string().min(1).max(64);
const revision = z.number().int().min(0);

/** A draft as the page has it, and the revision that the page has read last. */
export const draftBody = z.object({
  workflowId: id,
  seenRevision: revision,
  /** The published version that the page's draft was begun from. */
  baseVersion: z.number().int().positive(),
  definition: workflowSchema,
});
export type DraftRequest = z.infer<typeof draftBody>;

export const discardBody = z.object({ workflowId: id, seenRevision: revision });

export const publishBody = z.object({
  workflowId: id,
  seenRevision: revision,
  /** For each state that goes and has items: where they go. */
  newStates: z.record(id, id).default({}),
  note: z.string().max(500).default(""),
});
export type PublishRequest = z.infer<typeof publishBody>;

export const versionQuery = z.object({ workflow: id, version: z.coerce.number().int().positive() });

export const startProjectBody = z.object({
  name: z.string().trim().min(1, "A project needs a name.").max(60, "Use at most 60 characters."),
  key: z
    .string()
    .trim()
    .toUpperCase()
    .regex(/^[A-Z][A-Z0-9]{1,9}$/, "Use 2 to 10 letters and figures, a letter first."),
  template: z.string().max(60),
  visibility: z.enum(["everyone", "members"]),
  zone: z
    .string()
    .max(60)
    .refine(
      (zone) => Intl.supportedValuesOf("timeZone").includes(zone) || zone === "UTC",
      "This is no time zone.",
    ),
});
/** What of a project is changed; what is left out stays. */
export const projectBody = startProjectBody
  .pick({ name: true, visibility: true, zone: true })
  .extend({
    expectation: z.object({
      days: z.number().int().min(1, "At least one day.").max(365, "At most 365 days."),
      /** Of all that finishes. */
      share: z.number().min(0.5, "At least half.").max(0.99, "At most 99 %."),
    }),
  })
  .partial();
export type ProjectEdit = z.infer<typeof projectBody>;

export type StartProjectRequest = z.infer<typeof startProjectBody>;

/** As much text as a file may have; sizes are told in words by whoever reads it. */
const LARGEST_TEXT = 6 * 1024 * 1024;

export const newWorkflowBody = z.object({
  name: z.string().trim().max(80).default(""),
  from: z.discriminatedUnion("kind", [
    z.object({ kind: z.literal("template"), name: z.string().max(80) }),
    z.object({ kind: z.literal("copy"), workflowId: id }),
    z.object({ kind: z.literal("empty") }),
    z.object({ kind: z.literal("file"), text: z.string().max(LARGEST_TEXT) }),
  ]),
});
export type NewWorkflowRequest = z.infer<typeof newWorkflowBody>;

export const workflowEditBody = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("take out"), id }),
  z.object({ kind: z.literal("bring back"), id }),
]);
export type WorkflowEdit = z.infer<typeof workflowEditBody>;

/** Of which workflow it is asked how it is walked. */
export const habitsQuery = z.object({ workflow: z.string().min(1).max(64) });

export const replayQuery = z.object({
  workflow: z.string().min(1).max(64),
  days: z.coerce.number().pipe(z.union([z.literal(30), z.literal(90), z.literal(365)])),
});

export const exportQuery = z.object({
  workflow: z.string().min(1).max(64),
  format: z.enum(["scxml", "json", "svg", "mermaid"]),
  /** The draft, where there is one, or what runs. */
  which: z.enum(["running", "draft"]).default("running"),
});

export const typeEditBody = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("save"),
    type: itemTypeSchema,
    /**
     * Where its items go, by the state they are in, when the type follows another workflow from now
     * on.
     */
    newStates: z.record(id, id).default({}),
  }),
  z.object({ kind: z.literal("remove"), id }),
  z.object({ kind: z.literal("bring back"), id }),
  /** All types in their new order. */
  z.object({ kind: z.literal("order"), ids: z.array(id).max(100) }),
  /** What the levels are called, from the lowest. */
  z.object({ kind: z.literal("name levels"), names: levelNamesSchema }),
]);
export type TypeEdit = z.infer<typeof typeEditBody>;

/** Where a source takes requests: an address, or a path of what came with the product; null: nowhere. */
const asksAt = z
  .string()
  .trim()
  .max(300)
  .regex(/^(https?:\/\/[^\s]+|\/[^/\s][^\s]*)$/i, "An address begins with https://.")
  .nullable();

export const sourceBody = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("add"),
    name: z.string().trim().min(1, "A source needs a name.").max(60),
    asksAt: asksAt.default(null),
  }),
  z.object({ kind: z.literal("asks"), id: z.string().max(64), asksAt }),
  z.object({
    kind: z.literal("attach"),
    id: z.string().max(64),
    projectKey: z.string().min(1).max(10),
    on: z.boolean(),
  }),
  z.object({ kind: z.literal("remove"), id: z.string().max(64) }),
]);
