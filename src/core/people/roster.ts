export interface RosterPerson {
  id: string;
  name: string;
  calling: string | null;
  role: "lead" | "member" | "observer";
  /** What they are good for in the project. */
  trades: readonly string[];
}
