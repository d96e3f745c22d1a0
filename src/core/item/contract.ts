import { z } from "zod";
import type { Card } from "@/core/board/card";
import { answered, contract, DONE } from "@/core/contract/contract";
import type { ScopeQuestion } from "@/core/plan/scope-reason";
import { copyBody } from "./copy";
import type { ItemFileView } from "./item-file";
import type { ItemView } from "./item-view";
import { behindBody, type BehindView } from "./list/behind";
import { projectChangeQuery, type ElsewhereView } from "./project-change";
import { termEditBody } from "./terms/edit";
import type { PartView } from "./terms/part-view";
import { LONGEST_TERM } from "./terms/term";
import type { FreePlacesView, TermsView } from "./terms/view";
import type { WithdrawnView } from "./withdrawn-view";
import { VOTE_SIDES } from "./vote";
import { createItemBody, fieldEditBody, itemCommandBody } from "./request";

export const itemContract = {
  /** All that is under a large piece, as far as one may see it. */
  below: contract({
    method: "GET",
    path: "/api/items/:key/below",
    answer: answered<{ ids: string[] }>(),
  }),
  /** Everything known of an item. */
  read: contract({
    method: "GET",
    path: "/api/items/:key",
    answer: answered<ItemView>(),
    kept: "item",
  }),
  make: contract({
    method: "POST",
    path: "/api/items",
    body: createItemBody,
    answer: answered<{ card: Card }>(),
    status: 201,
  }),
  /** The one door for commands on items. */
  command: contract({
    method: "POST",
    path: "/api/items/commands",
    body: itemCommandBody,
    answer: answered<{ card: Card; fresh: boolean; asksWhy: ScopeQuestion | null }>(),
  }),
  /** Puts a file to an item: its bytes are the body. */
  putFile: contract({
    method: "POST",
    path: "/api/items/:key/files",
    query: z.object({ id: z.uuid(), name: z.string().min(1).max(400) }),
    answer: answered<ItemFileView>(),
    status: 201,
  }),
  /** A file of an item, as its bytes. */
  file: contract({
    method: "GET",
    path: "/api/items/:key/files/:file",
    answer: answered<string>(),
  }),
  /** Removes what a file holds, and what it is called, for good. */
  emptyFile: contract({
    method: "POST",
    path: "/api/items/:key/files/:file/emptied",
    body: z.object({
      commandId: z.uuid(),
      why: z.string().trim().min(1, "Say why it goes.").max(500),
    }),
    answer: DONE,
  }),
  /** Makes a copy of an item, with the parts of it that are chosen. */
  copy: contract({
    method: "POST",
    path: "/api/items/:key/copy",
    body: copyBody,
    answer: answered<{ card: Card; fresh: boolean }>(),
    status: 201,
  }),
  /** Says that one has seen what was changed of what was agreed, up to an event. */
  seeAgreed: contract({
    method: "POST",
    path: "/api/items/:key/agreed-seen",
    body: z.object({ seq: z.number().int().positive() }),
    answer: DONE,
  }),
  /** What moving an item to another project would mean for it. */
  elsewhere: contract({
    method: "GET",
    path: "/api/items/:key/elsewhere",
    query: projectChangeQuery,
    answer: answered<ElsewhereView>(),
    kept: "elsewhere",
  }),
  /** What was withdrawn in a project, the latest first, for those who lead it. */
  withdrawn: contract({
    method: "GET",
    path: "/api/projects/:key/withdrawn",
    query: z.object({ words: z.string().max(200).default("") }),
    answer: answered<WithdrawnView>(),
    kept: "withdrawn",
  }),
  /** The labels and parts of a project, with how often each is said. */
  terms: contract({
    method: "GET",
    path: "/api/projects/:key/terms",
    answer: answered<TermsView>(),
    kept: "terms",
  }),
  /** Places as people write them that belong to no part yet. */
  freePlaces: contract({
    method: "GET",
    path: "/api/projects/:key/terms/places",
    answer: answered<FreePlacesView>(),
    kept: "free places",
  }),
  /** Describes, renames, merges, retires or brings back a label or a part. */
  editTerms: contract({
    method: "POST",
    path: "/api/projects/:key/terms",
    body: termEditBody,
    answer: answered<TermsView>(),
  }),
  /** A part of the product: what is open about it, and what came and was finished lately. */
  part: contract({
    method: "GET",
    path: "/api/projects/:key/parts",
    query: z.object({ name: z.string().min(1).max(LONGEST_TERM) }),
    answer: answered<PartView>(),
    kept: "part",
  }),
  /** Votes for an item, or against it, or takes one's vote back. */
  vote: contract({
    method: "POST",
    path: "/api/items/:key/vote",
    body: z.object({ side: z.enum(VOTE_SIDES).nullable() }),
    answer: DONE,
  }),
  /** The items behind a figure. A query with a body, because a figure can stand for hundreds. */
  behind: contract({
    method: "POST",
    path: "/api/projects/:key/items",
    body: behindBody,
    answer: answered<BehindView>(),
    kept: "behind",
  }),
  /** Makes, changes, takes out or brings back a field of the project's own. */
  fields: contract({
    method: "POST",
    path: "/api/projects/:key/fields",
    body: fieldEditBody,
    answer: DONE,
  }),
};

/** Where changes of a project are told as they happen; `after` is the last number that was heard. */
export const streamContract = contract({
  method: "GET",
  path: "/api/projects/:key/stream",
  query: z.object({ after: z.coerce.number<number>().optional() }),
  answer: z.never(),
});
