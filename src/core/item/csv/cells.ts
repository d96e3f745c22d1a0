import { foldCase } from "@/core/formats/fold-case";
import { shorten } from "@/core/formats/cut-text";
import { writtenDay } from "@/core/formats/written-day";
import type { FieldEditor } from "@/core/item/fields";
import type { OwnField, OwnValue } from "@/core/item/own-field";
import type { TableGround } from "./ground";

/*
 * One cell of a table of items as the value of a field, and back. An empty cell says nothing.
 */

/** What a cell says, or why it says nothing that can be taken. */
export type CellValue = { value: unknown } | { problem: string };

/** Things in one cell stand behind each other like this. */
const APART = /[;|\n]/;
const JOINED = "; ";

const quoted = (text: string) => `“${shorten(text, 40)}”`;

const problem = (text: string): CellValue => ({ problem: text });

/** The numbers of a cell: a comma stands for the point where there is no other sign. */
function numberOf(cell: string): number | null {
  const text = cell.replaceAll(/\s/g, "");
  if (!/^-?\d+([.,]\d+)?$/.test(text)) return null;
  return Number(text.replace(",", "."));
}

const YES = new Set(["yes", "y", "true", "x", "1"]);
const NO = new Set(["no", "n", "false", "0", "-"]);

function named(
  cell: string,
  things: readonly { id: string; name: string }[],
  what: string,
): CellValue {
  const wanted = foldCase(cell);
  const found = things.filter(({ id, name }) => foldCase(name) === wanted || id === cell);
  if (found.length === 1) return { value: found[0].id };
  return problem(
    found.length === 0
      ? `there is no ${what} ${quoted(cell)}.`
      : `${found.length} are called ${quoted(cell)}.`,
  );
}

const ONE_OF: Record<
  keyof Pick<TableGround, "types" | "people" | "teams" | "sprints" | "releases">,
  string
> = {
  types: "type",
  people: "person here that is called",
  teams: "team",
  sprints: "sprint",
  releases: "release",
};

/**
 * What a cell says of a field.
 * @param cell not empty
 * @param newId for what needs an id of its own
 */
export function cellOfField(
  cell: string,
  editor: FieldEditor,
  { ground, newId }: { ground: TableGround; newId: () => string },
): CellValue {
  switch (editor.kind) {
    case "text":
      return { value: cell };
    case "number": {
      const number = numberOf(cell);
      return number === null ? problem(`${quoted(cell)} is no number.`) : { value: number };
    }
    case "date": {
      const day = writtenDay(cell);
      return day === null
        ? problem(`${quoted(cell)} is no day. Write it as 2026-11-23 or 23.11.2026.`)
        : { value: day };
    }
    case "choice": {
      const { options } = editor;
      if (typeof options === "string") return named(cell, ground[options], ONE_OF[options]);
      const found = options.find((one) => foldCase(one) === foldCase(cell));
      return found === undefined
        ? problem(`${quoted(cell)} is none of ${options.join(", ")}.`)
        : { value: found };
    }
    case "terms":
      // Only where nothing else stands between them a comma does: names may have one.
      return { value: parts(cell, APART.test(cell) ? APART : /,/) };
    case "criteria":
      return { value: parts(cell, /[|\n]/).map((text) => ({ id: newId(), text })) };
    case "flag": {
      const word = foldCase(cell);
      if (YES.has(word) || word === foldCase(editor.yes)) return { value: true };
      if (NO.has(word) || word === foldCase(editor.no)) return { value: false };
      return problem(`${quoted(cell)} is neither ${quoted(editor.yes)} nor ${quoted(editor.no)}.`);
    }
  }
}

const parts = (cell: string, apart: RegExp): string[] => {
  const found = cell.split(apart).map((one) => one.trim());
  return [...new Set(found.filter((one) => one !== ""))];
};

/** The keys of a cell, e.g. of what an item waits for. */
export const keysOfCell = (cell: string): string[] =>
  parts(cell, /[\s;|,]/).map((key) => key.toUpperCase());

/** What a cell says of a field of the project's own. @param cell not empty */
export function cellOfOwn(
  cell: string,
  field: Pick<OwnField, "name" | "kind" | "options">,
  ground: TableGround,
): CellValue {
  const offered = field.options.filter((one) => one.offered);
  switch (field.kind) {
    case "number":
      return cellOfField(cell, { kind: "number" }, { ground, newId: () => "" });
    case "date":
      return cellOfField(cell, { kind: "date" }, { ground, newId: () => "" });
    case "person":
      return named(cell, ground.people, ONE_OF.people);
    case "one of":
      return named(cell, offered, `choice of ${field.name}`);
    case "many of": {
      const found = parts(cell, APART).map((one) => named(one, offered, `choice of ${field.name}`));
      const wrong = found.find((one) => "problem" in one);
      return wrong ?? { value: found.map((one) => (one as { value: unknown }).value) };
    }
    case "yes or no":
      return cellOfField(cell, { kind: "flag", yes: "yes", no: "no" }, { ground, newId: () => "" });
    default:
      return { value: cell };
  }
}

/** The value of a field as a cell, such that it is read back as the same. */
export function fieldAsCell(value: unknown, editor: FieldEditor, ground: TableGround): string {
  if (value === null || value === undefined) return "";
  switch (editor.kind) {
    case "choice":
      return typeof editor.options === "string"
        ? (ground[editor.options].find(({ id }) => id === value)?.name ?? "")
        : String(value);
    case "terms": {
      const names = value as string[];
      return names.length === 1 && names[0].includes(",") ? `${names[0]};` : names.join(JOINED);
    }
    case "criteria":
      return (value as { text: string }[]).map(({ text }) => text).join("\n");
    case "flag":
      return value ? editor.yes : editor.no;
    default:
      return String(value);
  }
}

/** The same of a field of the project's own. */
export function ownAsCell(
  value: OwnValue | undefined,
  field: Pick<OwnField, "kind" | "options">,
  ground: TableGround,
): string {
  if (value === undefined) return "";
  const optionName = (id: string) => field.options.find((one) => one.id === id)?.name ?? "";
  if (Array.isArray(value)) return value.map(optionName).join(JOINED);
  if (field.kind === "one of") return optionName(String(value));
  if (field.kind === "person") return ground.people.find(({ id }) => id === value)?.name ?? "";
  if (typeof value === "boolean") return value ? "yes" : "no";
  return String(value);
}
