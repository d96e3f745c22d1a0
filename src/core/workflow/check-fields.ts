import type { Vocabulary } from "@/core/condition/vocabulary";
import { listWords } from "@/core/formats/list-words";
import { fieldsOfType, type OwnField } from "@/core/item/own-field";
import { ownFieldsOfMove, ownFieldsToFill } from "./field-in-rules";
import {
  finding,
  moveAt,
  repairable,
  type CheckSurroundings,
  type Finding,
  type Severity,
} from "./finding";
import type { Workflow } from "./workflow";

/** What is wrong with a field that a rule names, whichever rule that is. */
interface Fault {
  severity: Severity;
  code: string;
  sentence: (places: string) => string;
  mended: boolean;
}

/**
 * Own fields that rules name and that are taken out, or that items of this workflow do not have. One
 * cause each, wherever it shows.
 */
export function ownFieldFindings(workflow: Workflow, { vocabulary }: CheckSurroundings): Finding[] {
  const types = vocabulary.types.filter((t) => t.workflowId === workflow.id);
  return workflow.transitions.flatMap((t) =>
    ownFieldsOfMove(t).flatMap((fieldId): Finding[] => {
      const field = vocabulary.own.find((f) => f.id === fieldId);
      const fault =
        field && field.removedAt === null
          ? ownFieldsToFill(t).includes(fieldId) && notOfTypes(field, types)
          : goneField(field);
      if (!fault) return [];
      const { severity, code, sentence } = fault;
      const at = moveAt(workflow, t);
      const found = finding(severity, code, sentence(at), { transitionId: t.id });
      const words = `Take ${field?.name ?? "it"} out of the rules`;
      const told = fault.mended
        ? repairable(found, { kind: "take field off", fieldId, words })
        : found;
      return [{ ...told, cause: { of: `${code} ${fieldId}`, at, sentence } }];
    }),
  );
}

const goneField = (field: OwnField | undefined): Fault => ({
  severity: "weak",
  code: "field gone",
  sentence: (places) =>
    `${field ? `“${field.name}”` : "A field"} was taken out, and rules still name it at ${places}.`,
  mended: true,
});

/** Where not all types of a workflow have a field that is to be filled in. */
function notOfTypes(field: OwnField, types: Vocabulary["types"]): Fault | null {
  const without = types.filter((type) => fieldsOfType([field], type.id).length === 0);
  if (without.length === 0) return null;
  if (without.length === types.length)
    return {
      severity: "weak",
      code: "field of no type",
      sentence: (places) =>
        `“${field.name}” is to be filled in at ${places}, and no type of this workflow has it.`,
      mended: true,
    };
  const names = listWords(
    without.map((type) => type.name),
    "and",
  );
  const have = without.length === 1 ? "does" : "do";
  return {
    severity: "hint",
    code: "field of some types",
    sentence: (places) =>
      `“${field.name}” is to be filled in at ${places}; ${names} ${have} not have it and ${without.length === 1 ? "is" : "are"} not asked.`,
    mended: false,
  };
}
