/**
 * What somebody does in a project, beside the role that says what they may. Queues and defaults go
 * by duties.
 */
export const DUTIES = ["triages", "reviews", "tests", "releases", "accepts", "plans"] as const;
export type Duty = (typeof DUTIES)[number];

/** A duty is a person's or a whole team's. */
export type DutyHolderKind = "person" | "team";

export interface DutyHolder {
  duty: Duty;
  holderKind: DutyHolderKind;
  holderId: string;
}

/** A person of a project, as far as duties go. */
export interface DutyBound {
  id: string;
  role: "lead" | "member" | "observer";
  teamIds: readonly string[];
}

/**
 * Who has a duty: those who are named, by themselves or with their team; where nobody of the
 * project is, every one of its members.
 */
export function dutyHolders<P extends DutyBound>(
  duty: Duty,
  holders: readonly DutyHolder[],
  people: readonly P[],
): P[] {
  const workers = people.filter((p) => p.role !== "observer");
  const named = holders.filter((h) => h.duty === duty);
  const has = (person: P) =>
    named.some((h) =>
      h.holderKind === "person" ? h.holderId === person.id : person.teamIds.includes(h.holderId),
    );
  const bound = workers.filter(has);
  return bound.length > 0 ? bound : workers;
}
