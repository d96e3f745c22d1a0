import type { DutyHolder } from "./duty";
import type { RosterPerson } from "./roster";

/** Somebody with an account, as administrators see them. */
export interface AccountRow {
  id: string;
  name: string;
  email: string;
  calling: string | null;
  administrator: boolean;
  lastSignedInAt: number | null;
  /** Until when a link of theirs can be used; null where none waits. */
  linkUntil: number | null;
  hasPassword: boolean;
  /** When they left; null while they are here. */
  endedAt: number | null;
}

/** What somebody has in hand that is not finished, by project, with who could have it. */
export interface HandsView {
  projects: {
    id: string;
    key: string;
    name: string;
    /** Items that they are to do, and items that they are to review. */
    assigned: number;
    reviews: number;
    people: { id: string; name: string }[];
  }[];
}

export interface AccountsView {
  accounts: AccountRow[];
  now: number;
}

export interface MembersView {
  members: RosterPerson[];
  /** People with an account who are not in the project; only for those who may add them. */
  others: { id: string; name: string; email: string }[];
  mayEdit: boolean;
  /** Who is named for which duty, and the teams that can be. */
  duties: DutyHolder[];
  teams: { id: string; name: string }[];
}
