import { z } from "zod";
import { answered, contract, DONE } from "@/core/contract/contract";
import { lookSchema } from "./look";
import { MOST_PICTURES, type Picture } from "./picture";
import { viewBody, type Views, type ViewUses } from "./view";

export const viewContract = {
  /** The views of a project that a person sees, and what looks are made of there. */
  read: contract({
    method: "GET",
    path: "/api/projects/:key/views",
    answer: answered<Views>(),
    kept: "views",
  }),
  /** Makes, changes, orders and puts away views, and names conditions. */
  change: contract({
    method: "POST",
    path: "/api/projects/:key/views",
    body: viewBody,
    answer: DONE,
  }),
  /** How the views of a project are used, for its leads. */
  uses: contract({
    method: "GET",
    path: "/api/projects/:key/views/uses",
    answer: answered<ViewUses>(),
    kept: "view uses",
  }),
  /** Small pictures of what some looks show. */
  pictures: contract({
    method: "POST",
    path: "/api/projects/:key/views/pictures",
    body: z.object({ looks: z.array(lookSchema).max(MOST_PICTURES) }),
    answer: answered<Picture[]>(),
    kept: "pictures",
  }),
  /** Keeps a look that is too long for an address under a short id. */
  shorten: contract({
    method: "POST",
    path: "/api/projects/:key/views/short",
    body: z.object({
      search: z
        .record(z.string().max(20), z.string().max(20_000))
        .refine((search) => Object.keys(search).length <= 12),
    }),
    answer: z.object({ id: z.string() }),
  }),
};
