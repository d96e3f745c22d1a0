import { EMPTY_VOCABULARY, type Vocabulary } from "@/core/condition/vocabulary";
import type { ItemEvent } from "@/core/item/event";
import { isRefusal, type Refusal } from "@/core/workflow/refusal";
import type { Transaction } from "@/db/connection";
import { person } from "@/db/schema";
import { loadVocabulary } from "../condition/vocabulary";

/** Names for the words of a refusal. */
export interface Naming {
  vocabulary: Vocabulary;
  nameOf: (id: string) => string;
  teamName: (id: string) => string;
}

/**
 * Decides on a command. Names are only wanted for the words of a refusal, so they are read when
 * there is one, and the same decision is then put into words again.
 */
export async function decideNaming(
  tx: Transaction,
  projectId: string,
  decideWith: (naming: Naming) => ItemEvent[] | Refusal,
): Promise<ItemEvent[] | Refusal> {
  let named = false;
  const note = () => ((named = true), "that person");
  const decision = decideWith({ vocabulary: EMPTY_VOCABULARY, nameOf: note, teamName: note });
  if (!isRefusal(decision) || !(named || decision.code === "condition")) return decision;
  const vocabulary = await loadVocabulary(tx, projectId);
  const people = await tx.select({ id: person.id, name: person.name }).from(person);
  const everybody = new Map(people.map((p) => [p.id, p.name]));
  return decideWith({
    vocabulary,
    nameOf: (id) => everybody.get(id) ?? "that person",
    teamName: (id) => vocabulary.teams.find((t) => t.id === id)?.name ?? "a team that is gone",
  });
}
