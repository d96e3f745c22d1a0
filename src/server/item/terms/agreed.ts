import type { EditableFields } from "@/core/item/fields";
import { termsMeant } from "@/core/item/terms/current-name";
import { TERM_FIELDS, TERM_KINDS, TERM_WORDS, type Term } from "@/core/item/terms/term";
import { invalid } from "../../refused";

type SaysTerms = Partial<Pick<EditableFields, "labels" | "parts">>;

/**
 * What is said of an item with its labels and parts by the names that the project has for them.
 * @param known what the project says of them; asked for only where something is said
 * @param before what the item says already; null where nothing that is said anew is looked at
 * @throws Refused where somebody gives it one that is not offered any more
 */
export async function withAgreedTerms<S extends SaysTerms>(
  known: () => Promise<readonly Term[]>,
  says: S,
  before: Required<SaysTerms> | null,
): Promise<S> {
  const said = TERM_KINDS.filter((kind) => (says[TERM_FIELDS[kind]] ?? []).length > 0);
  if (said.length === 0) return says;
  const terms = await known();
  if (terms.length === 0) return says;
  const agreed = said.map((kind) => {
    const field = TERM_FIELDS[kind];
    const names = termsMeant(terms, kind, says[field]!);
    const fresh = names.filter((name) => before && !before[field].includes(name));
    const ended = terms.find(
      (term) => term.kind === kind && term.endedAt !== null && fresh.includes(term.name),
    );
    if (ended)
      throw invalid(
        `The ${TERM_WORDS[kind].one} “${ended.name}” is not used any more.`,
        "Choose another one, or ask a lead to bring it back.",
      );
    return [field, names];
  });
  return { ...says, ...Object.fromEntries(agreed) };
}
