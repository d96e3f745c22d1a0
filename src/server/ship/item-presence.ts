import { addressFor, environmentKey } from "@/core/ship/environment";
import type { ItemPresence } from "@/core/ship/item-code";
import type { Reader } from "@/db/connection";
import { environmentsOf } from "./environments";
import { readPresence } from "./presence";

/**
 * On which environments of its project an item is, and where it can be looked at there. One of which
 * nothing is known is not among them.
 * @param deployedTo what was told of an item without its commits
 */
export async function readItemPresence(
  reader: Reader,
  {
    id,
    key,
    projectId,
    deployedTo,
  }: { id: string; key: string; projectId: string; deployedTo: readonly string[] },
): Promise<ItemPresence[]> {
  const [environments, { merged, parts, of }] = await Promise.all([
    environmentsOf(reader, projectId),
    readPresence(reader, [id]),
  ]);
  const presences = of(id);
  const told = new Set(deployedTo.map(environmentKey));
  const heard = new Set(parts.map(({ environment }) => environment));
  // What nobody has listed is shown by its name alone.
  const unlisted = deployedTo.filter(
    (name) => !environments.some((one) => environmentKey(one.name) === environmentKey(name)),
  );
  const listed = environments.map((environment): ItemPresence => {
    const name = environmentKey(environment.name);
    const presence = presences.find((one) => one.environment === name);
    const toldOf = !heard.has(name) && told.has(name);
    const there = presence ? (presence.whole ? "all" : "some") : toldOf ? "all" : "none";
    return {
      ...{ name: environment.name, live: environment.live, there },
      ...{ since: presence?.since ?? null, address: addressFor(environment, key) },
    };
  });
  const anything = merged.has(id) || told.size > 0;
  if (!anything) return [];
  const others = unlisted.map((name): ItemPresence => ({
    ...{ name, live: false, there: "all", since: null, address: null },
  }));
  return [...listed, ...others];
}
