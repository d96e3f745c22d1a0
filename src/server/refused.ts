import { refuse, type Refusal, type RefusalCode } from "@/core/workflow/refusal";

/** A use case's way to say no: carries the refusal to whoever answers the person. */
export class Refused extends Error {
  constructor(readonly refusal: Refusal) {
    super(refusal.sentence);
  }
}

export function notFound(what: string): Refused {
  return new Refused(
    refuse(
      "not found",
      `There is no such ${what} that you can see.`,
      "It may have been moved, or you may need to be added to its project.",
    ),
  );
}

export function notAllowed(doing: string): Refused {
  return new Refused(
    refuse(
      "not allowed",
      `Your role in this project does not include this: ${doing}.`,
      "Ask a lead of the project.",
    ),
  );
}

export function putAway(projectName: string): Refused {
  return new Refused(
    refuse(
      "put away",
      `“${projectName}” was put away: it can be read, and nothing of it changes.`,
      "A lead of it can bring it back.",
    ),
  );
}

export function invalid(sentence: string, help: string): Refused {
  return new Refused(refuse("invalid", sentence, help));
}

/** The HTTP status that fits a refusal. */
export const STATUS_OF: Record<RefusalCode, number> = {
  "not found": 404,
  "not allowed": 403,
  conflict: 409,
  "moved meanwhile": 409,
  withdrawn: 409,
  "put away": 409,
  "in use": 409,
  "talk closed": 409,
  invalid: 422,
  "no such move": 422,
  "not for you": 422,
  condition: 422,
  checklist: 422,
  approvals: 422,
  "sub-tasks open": 422,
  blocked: 422,
  "change open": 422,
  frozen: 422,
  "test missing": 422,
  "acceptance missing": 422,
  "comment missing": 422,
  "field missing": 422,
  "same person": 422,
  "reason missing": 422,
  "outcome missing": 422,
  limit: 422,
  "blocker unknown": 422,
};
