import { z } from "zod";
import { answered, contract, DONE } from "@/core/contract/contract";
import type { KnownProblem } from "./known-problem";
import type { PrivatePageView } from "./private-page";
import { answerBody, followBody, requesterMoveBody } from "./requester-request";

/**
 * What people without an account may do. Apart from what the desk asks: their pages load nothing of
 * that.
 */
export const requesterContract = {
  /** Sends a form, as a form with files. */
  send: contract({
    method: "POST",
    path: "/api/public/reports/:key/:form",
    answer: z.object({ reference: z.string(), token: z.string() }),
    status: 201,
  }),
  /** Published problems that look like what somebody types. */
  known: contract({
    method: "GET",
    path: "/api/public/known/:key",
    query: z.object({ q: z.string().default("") }),
    answer: answered<KnownProblem[]>(),
    kept: "known",
  }),
  page: contract({
    method: "GET",
    path: "/api/public/pages/:token",
    answer: answered<PrivatePageView>(),
    kept: "private",
  }),
  /** What the requester answers, or adds of their own accord. */
  answer: contract({
    method: "POST",
    path: "/api/public/pages/:token",
    body: answerBody,
    answer: answered<PrivatePageView>(),
  }),
  /** A step that the process leaves to the requester. */
  move: contract({
    method: "POST",
    path: "/api/public/pages/:token/moves",
    body: requesterMoveBody,
    answer: answered<PrivatePageView>(),
  }),
  /** Adds somebody else to whom it happened too. */
  follow: contract({
    method: "POST",
    path: "/api/public/pages/:token/follow",
    body: followBody,
    answer: DONE,
  }),
  /** Files that are added to a report, as a form. */
  addFiles: contract({
    method: "POST",
    path: "/api/public/pages/:token/files",
    answer: answered<PrivatePageView>(),
  }),
  file: contract({
    method: "GET",
    path: "/api/public/pages/:token/files/:file",
    answer: z.never(),
  }),
};
