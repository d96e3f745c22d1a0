/*
 * A browser prints every answer with a status of 400 and more in its console, as a resource that
 * failed to load; a move that a rule refuses has not failed. So our own pages ask to be told the
 * status in a header; programs without that wish get it as HTTP has it.
 */

/** Sent along by who wants the status of a refusal told. */
export const WANTS_STATUS_TOLD = "x-tell-status";

/** In the answer to them: the status that it would have. */
export const TOLD_STATUS = "x-told-status";
