import type { Condition } from "@/core/condition/condition";
import { TERM_FIELDS, type TermKind } from "@/core/item/terms/term";
import { lookPath } from "@/core/view/look-path";

/** The table of the items that say a word: all of them, or what is not finished. */
export function termAddress(
  projectKey: string,
  { kind, name, open = false }: { kind: TermKind; name: string; open?: boolean },
): string {
  const says: Condition = { kind: "compare", fact: TERM_FIELDS[kind], op: "contains", value: name };
  return lookPath(projectKey, {
    arrangement: "table",
    filter: open
      ? {
          kind: "all",
          of: [says, { kind: "compare", fact: "stateKind", op: "is not", value: "finished" }],
        }
      : says,
    counts: ["stateId"],
  });
}
