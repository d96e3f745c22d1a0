import { z } from "zod";
import { answered, contract, DONE } from "@/core/contract/contract";
import type { DeskView, ReportView } from "./desk-view";
import { foundQuery, type FoundReports } from "./found-report";
import type { FormsView } from "./forms-view";
import type { MailboxView } from "./mailbox-view";
import type { PromisesView } from "./promises-view";
import type { BrokenPromise } from "./broken-promise";
import {
  addressBody,
  breaksQuery,
  formBody,
  importBody,
  knownBody,
  partsBody,
  reproductionBody,
  rulesBody,
  undoVerdictBody,
  verdictBody,
  worthBody,
} from "./request";
import type { VerdictResult } from "./verdict";
import type { WorthView } from "./worth-view";

/** The order of a large backlog, before and after. */
const LARGEST_ORDER = 1024 * 1024;
const LARGEST_IMPORT = 6 * 1024 * 1024;

/** The triage desk and what leads to it. */
export const intakeContract = {
  desk: contract({
    method: "GET",
    path: "/api/projects/:key/intake",
    answer: answered<DeskView>(),
    kept: "desk",
  }),
  /** Reports whatever became of them: those judged, or those that hold some words. */
  find: contract({
    method: "GET",
    path: "/api/projects/:key/intake/reports",
    query: foundQuery,
    answer: answered<FoundReports>(),
    kept: "found reports",
  }),
  /** Takes a part of a table into the queue, or takes a whole import back. */
  import: contract({
    method: "POST",
    path: "/api/projects/:key/intake/import",
    body: importBody,
    answer: z.object({ changed: z.number(), kept: z.number() }),
    largest: LARGEST_IMPORT,
  }),
  /** A report by somebody with an account. */
  /** A report by somebody with an account, as a form with files. */
  quick: contract({
    method: "POST",
    path: "/api/projects/:key/intake/quick",
    answer: z.object({ reference: z.string() }),
    status: 201,
  }),
  forms: contract({
    method: "GET",
    path: "/api/projects/:key/forms",
    answer: answered<FormsView>(),
    kept: "forms",
  }),
  changeForms: contract({
    method: "POST",
    path: "/api/projects/:key/forms",
    body: formBody,
    answer: z.object({ id: z.string() }),
  }),
  mailbox: contract({
    method: "GET",
    path: "/api/projects/:key/mailbox",
    answer: answered<MailboxView>(),
    kept: "mailbox",
  }),
  changeMailbox: contract({
    method: "POST",
    path: "/api/projects/:key/mailbox",
    body: addressBody,
    answer: DONE,
  }),
  /** What is promised, and how it stands. */
  promises: contract({
    method: "GET",
    path: "/api/projects/:key/promises",
    answer: answered<PromisesView>(),
    kept: "promises",
  }),
  /** Changes what a project promises, when it works, or how it weighs requests. */
  changeRules: contract({
    method: "POST",
    path: "/api/projects/:key/promises",
    body: rulesBody,
    answer: z.object({ version: z.number() }),
  }),
  /** Requests by what they are worth. */
  worth: contract({
    method: "GET",
    path: "/api/projects/:key/worth",
    answer: answered<WorthView>(),
    kept: "worth",
  }),
  changeWorth: contract({
    method: "POST",
    path: "/api/projects/:key/worth",
    body: worthBody,
    answer: DONE,
    largest: LARGEST_ORDER,
  }),
  /** Makes an item known to people outside, or takes it back. */
  publishKnown: contract({
    method: "POST",
    path: "/api/items/known/:id",
    body: knownBody,
    answer: DONE,
  }),
};

/** One report, for those who judge it. */
export const reportContract = {
  read: contract({
    method: "GET",
    path: "/api/reports/:id",
    answer: answered<ReportView>(),
    kept: "report",
  }),
  /** The promise that a verdict would break. */
  breaks: contract({
    method: "GET",
    path: "/api/reports/:id/breaks",
    query: breaksQuery,
    answer: answered<{ broken: BrokenPromise | null }>(),
    kept: "broken promise",
  }),
  judge: contract({
    method: "POST",
    path: "/api/reports/:id/verdicts",
    body: verdictBody,
    answer: answered<VerdictResult>(),
  }),
  undoVerdict: contract({
    method: "DELETE",
    path: "/api/reports/:id/verdicts",
    body: undoVerdictBody,
    answer: answered<VerdictResult>(),
  }),
  /** Says which parts of the product a report is about. */
  sayParts: contract({
    method: "POST",
    path: "/api/reports/:id/parts",
    body: partsBody,
    answer: DONE,
  }),
  /** Takes a report off the item that it was merged into. */
  takeApart: contract({ method: "POST", path: "/api/reports/:id/apart", answer: DONE }),
  /** Says that this person has the report open. */
  open: contract({ method: "POST", path: "/api/reports/:id/presence", answer: DONE }),
  /** Keeps that somebody tried to make it happen. */
  tries: contract({
    method: "POST",
    path: "/api/reports/:id/tries",
    body: reproductionBody,
    answer: DONE,
  }),
  file: contract({ method: "GET", path: "/api/reports/:id/files/:file", answer: z.never() }),
};
