import { z } from "zod";
import { answered, contract } from "../contract/contract";
import type { Found, FoundItems } from "./found";

const words = z
  .string()
  .max(200)
  .default("")
  .transform((q) => q.replaceAll("\u0000", ""));

export const findQuery = z.object({
  q: words,
  /** Key of the project, or of the place above the projects, in which one is. */
  at: z.string().max(80).optional(),
});
export type FindQuery = z.output<typeof findQuery>;

export const itemsQuery = z.object({
  q: words,
  /** Key of the project whose items alone are wanted. */
  project: z.string().max(80).optional(),
  /** Key of the project in which one is. */
  at: z.string().max(80).optional(),
  after: z.string().max(2_000).optional(),
});
export type ItemsQuery = z.output<typeof itemsQuery>;

export const findContract = {
  /** Everything whose key, name or words fit: items, comments, reports, people, views, places. */
  find: contract({
    method: "GET",
    path: "/api/find",
    query: findQuery,
    answer: answered<Found>(),
    kept: "found",
  }),
  /** Items alone, page by page; the best first. */
  items: contract({
    method: "GET",
    path: "/api/find/items",
    query: itemsQuery,
    answer: answered<FoundItems>(),
    kept: "found items",
  }),
};
