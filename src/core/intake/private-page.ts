/**
 * What stands on the page of a report: questions and answers, "progress" for the steps of its item, "news" for
 * all else that is told.
 */
export type RequesterMessageKind = "question" | "reminder" | "answer" | "progress" | "news";

/** What is told to whoever reported something, and is no talk with them. */
export const TOLD_KINDS: readonly RequesterMessageKind[] = ["progress", "news"];

/** What somebody without an account sees of their report: nothing internal, no names of people. */
export interface PrivatePageView {
  reference: string;
  projectName: string;
  title: string;
  wrote: {
    happened: string;
    reproduce: string;
    place: string;
    answers: { label: string; value: string }[];
  } | null;
  receivedAt: number;
  now: number;
  files: { id: string; name: string; picture: boolean }[];
  status: { headline: string; detail: string };
  /** How many others told of the same thing. */
  others: number;
  awaitsAnswer: boolean;
  /** Whether words and files can be added. */
  maySay: boolean;
  /** Steps that the process leaves to the requester. */
  moves: { from: string; to: string; verb: string; asksWhy: boolean }[];
  messages: { kind: RequesterMessageKind; body: string; at: number }[];
}
