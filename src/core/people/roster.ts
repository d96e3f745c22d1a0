export interface RosterPerson {
  id: string;
  name: string;
  calling: string | null;
  role: "lead" | "member" | "observer";
}
