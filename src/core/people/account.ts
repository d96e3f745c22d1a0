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
