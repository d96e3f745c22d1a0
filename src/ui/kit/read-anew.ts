import type { QueryClient, QueryFilters } from "@tanstack/react-query";

/**
 * Reads again what has changed. Where the first reading is still under way it is let end, and made
 * once more: it may have been answered before the change, and reading again would only join it.
 */
export async function readAnew(client: QueryClient, of: QueryFilters): Promise<void> {
  const first = client.getQueryCache().findAll({
    ...of,
    fetchStatus: "fetching",
    predicate: (query) => query.state.data === undefined,
  });
  await Promise.allSettled(first.map((query) => query.promise));
  await client.invalidateQueries(of);
}
