import type { Instant } from "@/core/calendar/instant";
import { mergeVocabularies } from "@/core/across/merge-vocabulary";
import type { Reader } from "@/db/connection";
import { viewerAsker } from "../condition/asker";
import { loadVocabulary } from "../condition/vocabulary";
import type { ListAsker } from "../item/list/key";
import type { Viewer } from "../people/viewer";
import type { Ground } from "./ground";

/** A person who asks of what they look at, with what its projects call things. */
export async function groundAsker(
  reader: Reader,
  viewer: Viewer,
  { projects, zone, place }: Ground,
  now: Instant,
): Promise<{ asker: ListAsker }> {
  const [first] = projects;
  const [vocabularies, asking] = await Promise.all([
    Promise.all(
      projects.map(async ({ project: { id, key } }) => ({
        key,
        vocabulary: await loadVocabulary(reader, id),
      })),
    ),
    viewerAsker(reader, viewer, first.project, now),
  ]);
  const { vocabulary, alike } = mergeVocabularies(vocabularies);
  const asker = { ...asking, zone, vocabulary };
  if (place === null) return { asker };
  // Sprints by words are a project's; here every one is named.
  return { asker: { ...asker, alike, ownFields: vocabulary.own, sprints: undefined } };
}
