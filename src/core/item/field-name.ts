import { FIELD_WORDS } from "./fields";
import type { OwnField } from "./own-field";

/**
 * What a field is called in a sentence, by its id: one of every item, or one of the project's own
 * (`own.` and its id).
 */
export function fieldName(id: string, own: readonly Pick<OwnField, "id" | "name">[]): string {
  if (id.startsWith("own."))
    return own.find((field) => field.id === id.slice(4))?.name ?? "a field that is gone";
  return Object.hasOwn(FIELD_WORDS, id) ? FIELD_WORDS[id as keyof typeof FIELD_WORDS] : id;
}
