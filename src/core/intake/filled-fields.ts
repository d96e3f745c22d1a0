import {
  fieldsOfType,
  isDerived,
  ownValueProblem,
  type OwnField,
  type OwnValue,
} from "@/core/item/own-field";
import type { FormAnswer } from "./form";

/** The field that takes how something is made to happen again, whatever a form asks it as. */
export const STEPS_FIELD = "Steps to reproduce";

/** What of an accepted report stands in fields of its item. */
export interface FilledFields {
  /** By the ids of the fields. */
  own: Record<string, OwnValue>;
  /** Ids of the questions whose answers stand there. */
  answers: ReadonlySet<string>;
  /** Whether the steps stand there. */
  steps: boolean;
}

const alike = (a: string, b: string) =>
  a.trim().toLocaleLowerCase("en") === b.trim().toLocaleLowerCase("en");

/**
 * The fields of a project's own that an accepted report fills: what a form asks under the name of a
 * field goes there, as far as the field can say it; the rest is for the description.
 * @param typeId the type of the item that the report becomes
 */
export function filledFields(
  report: { reproduce: string; answers: readonly FormAnswer[] },
  fields: readonly OwnField[],
  typeId: string,
): FilledFields {
  const mine = fieldsOfType(fields, typeId).filter(({ kind }) => !isDerived(kind));
  const own: Record<string, OwnValue> = {};
  const answers = new Set<string>();
  const fill = (name: string, text: string): boolean => {
    const field = mine.find(
      (one) => one.name !== "" && alike(one.name, name.replace(/\?\s*$/, "")),
    );
    const value = field && valueOf(field, text);
    if (!field || value === null || value === undefined || field.id in own) return false;
    own[field.id] = value;
    return true;
  };
  for (const { questionId, label, value } of report.answers)
    if (fill(label, value)) answers.add(questionId);
  const steps = report.reproduce.trim() !== "" && fill(STEPS_FIELD, report.reproduce);
  return { own, answers, steps };
}

/** An answer as a field says it; null where it cannot. */
function valueOf(field: OwnField, text: string): OwnValue | null {
  const value = typed(field, text.trim());
  return value === null || ownValueProblem(field, value) !== null ? null : value;
}

function typed({ kind, options }: OwnField, text: string): OwnValue | null {
  const option = (name: string) =>
    options.find((one) => one.offered && alike(one.name, name))?.id ?? null;
  switch (kind) {
    case "text":
      return text.length <= LONGEST ? text : null;
    case "number":
      return text === "" ? null : Number(text);
    case "yes or no":
      return alike(text, "yes") ? true : alike(text, "no") ? false : null;
    case "one of":
      return option(text);
    case "many of": {
      const chosen = text.split(",").map(option);
      return chosen.every((id) => id !== null) ? chosen : null;
    }
    case "date":
    case "link":
      return text;
    default:
      return null;
  }
}

/** A field holds so many characters. */
const LONGEST = 2_000;
