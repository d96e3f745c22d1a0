import { z } from "zod";
import type { Vocabulary } from "@/core/condition/vocabulary";

interface Option {
  value: string;
  label: string;
}

/** How a parameter of a rule is edited. */
export type ParameterEditor =
  | { kind: "choice"; label: string; options: (vocabulary: Vocabulary) => Option[] }
  /** Where the empty value means none. */
  | { kind: "choice or none"; label: string; options: (vocabulary: Vocabulary) => Option[] }
  /** A whole number, unless parts are told. */
  | { kind: "number"; label: string; least: number; most: number; parts?: true }
  | { kind: "flag"; label: string }
  | { kind: "text"; label: string; most: number }
  /** Texts, one a line. */
  | { kind: "lines"; label: string; most: number; each: number }
  /** At least one of them. */
  | { kind: "some of"; options: readonly string[] }
  | { kind: "condition" }
  | { kind: "field value" }
  | { kind: "new assignee" }
  | { kind: "recipients" };

export type Shape = Record<string, z.ZodType>;
export type ParametersOf<S extends Shape> = z.output<z.ZodObject<S>>;
export type Editors<S extends Shape> = { [P in keyof ParametersOf<S>]?: ParameterEditor };

/** The id of somebody or something that a rule names. */
export const ID = z.string().min(1).max(64);

/** Words that a rule says, at most so many characters. */
export const wordsOf = (most: number) => z.string().trim().min(1).max(most);

/** A rule of one of the kinds in a table, with what that kind leaves open. */
export type RuleOf<Table extends Record<string, { parameters: Shape }>> = {
  [K in keyof Table]: { kind: K } & Filled<Table[K]["parameters"]>;
}[keyof Table];

type CanBeLeftOut<S extends Shape, P extends keyof S> =
  undefined extends z.output<S[P]> ? P : never;

/** What a kind leaves open, as a rule says it; what was added to a kind later can be left out. */
type Filled<S extends Shape> = {
  [P in keyof S as Exclude<P, CanBeLeftOut<S, P>>]: z.output<S[P]>;
} & { [P in keyof S as CanBeLeftOut<S, P>]?: z.output<S[P]> };

/** Rules of the kinds in a table as they are stored, by what each kind leaves open. */
export const schemaOfKinds = <Table extends Record<string, { parameters: Shape }>>(kinds: Table) =>
  z.union(
    Object.entries(kinds).map(([kind, { parameters }]) =>
      z.object({ kind: z.literal(kind), ...parameters }),
    ),
  ) as unknown as z.ZodType<RuleOf<Table>>;
