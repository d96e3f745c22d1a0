import { flowPath } from "@/core/across/place";
import type { Condition } from "@/core/condition/condition";
import { TERM_FIELDS, type TermKind } from "@/core/item/terms/term";
import { writeLook } from "@/core/view/address";
import { PLAIN_LOOK, type Look } from "@/core/view/look";

/** The table of the items that say a word: all of them, or what is not finished. */
export function termAddress(
  projectKey: string,
  { kind, name, open = false }: { kind: TermKind; name: string; open?: boolean },
): string {
  const says: Condition = { kind: "compare", fact: TERM_FIELDS[kind], op: "contains", value: name };
  const look: Look = {
    ...PLAIN_LOOK,
    arrangement: "table",
    filter: open
      ? {
          kind: "all",
          of: [says, { kind: "compare", fact: "stateKind", op: "is not", value: "finished" }],
        }
      : says,
    counts: ["stateId"],
  };
  return `${flowPath(projectKey)}?${new URLSearchParams(writeLook(PLAIN_LOOK, look))}`;
}
