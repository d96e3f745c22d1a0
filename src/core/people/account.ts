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
