import { z } from "zod";
import { answered, contract, DONE } from "@/core/contract/contract";
import type { AcceptanceView, ItemAcceptance, ShowDraft } from "./acceptance-view";
import { acceptanceBody, showBody } from "./shown-item";

const ACCEPTANCE = "/api/projects/:key/ship/acceptance";

/** What is done to something that is shown to somebody. */
export const SHOWING_STEPS = ["take back", "remind", "ask again"] as const;
export type ShowingStep = (typeof SHOWING_STEPS)[number];

export const acceptanceContract = {
  /** What waits to be accepted, and whom it was shown to. */
  page: contract({
    method: "GET",
    path: ACCEPTANCE,
    answer: answered<AcceptanceView>(),
    kept: "acceptance",
  }),
  /** Whom an item was shown to, and what they said. */
  ofItem: contract({
    method: "GET",
    path: "/api/items/:key/acceptance",
    answer: answered<ItemAcceptance>(),
    kept: "item acceptance",
  }),
  /** Items as they could be shown, by their keys. */
  drafts: contract({
    method: "GET",
    path: `${ACCEPTANCE}/drafts`,
    query: z.object({ items: z.string().max(4_000) }),
    answer: answered<ShowDraft[]>(),
    kept: "acceptance drafts",
  }),
  show: contract({
    method: "POST",
    path: ACCEPTANCE,
    body: showBody,
    answer: answered<{ pages: { name: string; page: string | null }[] }>(),
  }),
  /** Takes it back, reminds, or asks once more. */
  step: contract({
    method: "POST",
    path: `${ACCEPTANCE}/:showing`,
    body: z.object({ step: z.enum(SHOWING_STEPS) }),
    answer: DONE,
  }),
  /** What somebody with an account says of what is shown to them. */
  say: contract({
    method: "POST",
    path: `${ACCEPTANCE}/:showing/said`,
    body: acceptanceBody,
    answer: DONE,
  }),
  picture: contract({
    method: "GET",
    path: `${ACCEPTANCE}/:showing/pictures/:picture`,
    answer: z.never(),
  }),
};
