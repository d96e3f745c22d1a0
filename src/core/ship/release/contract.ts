import { z } from "zod";
import { answered, contract, DONE } from "@/core/contract/contract";
import { tagBody } from "./tag";
import { withdrawBody } from "./withdrawal";
import { noteBody, outBody, type ReleasePage } from "./release-page";

export const releaseContract = {
  /** What is in a release, what stands against it, and what its notes say. */
  page: contract({
    method: "GET",
    path: "/api/projects/:key/ship/releases",
    query: z.object({ release: z.string().max(64).optional() }),
    answer: answered<ReleasePage>(),
    kept: "release page",
  }),
  /** Says whether the notes may be read without an account. */
  publish: contract({
    method: "POST",
    path: "/api/projects/:key/ship/releases/public",
    body: z.object({ on: z.boolean() }),
    answer: DONE,
  }),
  /** The notes of a project's releases, as an Atom feed for anyone. */
  feed: contract({
    method: "GET",
    path: "/api/public/releases/:key",
    answer: answered<string>(),
  }),
  /** Says what the notes say of an item, or that they leave it out. */
  note: contract({
    method: "POST",
    path: "/api/projects/:key/ship/releases/:release/notes",
    body: noteBody,
    answer: DONE,
  }),
  /** Takes one back that was out, and says what becomes of what is finished; or that it is out after all. */
  withdraw: contract({
    method: "POST",
    path: "/api/projects/:key/ship/releases/:release/withdrawn",
    body: withdrawBody,
    answer: answered<{ moving: number }>(),
  }),
  /** Asks code hosts to tag the commit that it went out with. */
  tag: contract({
    method: "POST",
    path: "/api/projects/:key/ship/releases/:release/tags",
    body: tagBody,
    answer: answered<{ refused: { repository: string; why: string }[] }>(),
  }),
  /** Says that it is out, and what becomes of what is not finished; or that it is not. */
  out: contract({
    method: "POST",
    path: "/api/projects/:key/ship/releases/:release/out",
    body: outBody,
    answer: answered<{ moving: number }>(),
  }),
};
