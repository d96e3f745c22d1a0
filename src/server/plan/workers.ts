import type { Reader } from "@/db/connection";
import { hoursOf } from "../alerts/hours";
import { loadRules } from "../intake/rules";
import { roster } from "../people/roster";
import type { Workers } from "./focus";

interface Named {
  id: string;
  name: string;
}

interface Worker extends Named {
  trades: readonly string[];
}

/** Those of a project who work in it, with when they do and the days on which nobody does. */
export async function readWorkers(
  reader: Reader,
  projectId: string,
): Promise<Workers & { people: Worker[]; teams: Named[] }> {
  const [{ people, teams }, { calendar }] = await Promise.all([
    roster(reader, projectId),
    loadRules(reader, projectId),
  ]);
  const workers = people.filter(({ role }) => role !== "observer");
  const ids = workers.map(({ id }) => id);
  return {
    ids,
    people: workers.map(({ id, name, trades }) => ({ id, name, trades })),
    teams: teams.map(({ id, name }) => ({ id, name })),
    hours: await hoursOf(reader, ids),
    holidays: new Set(calendar.holidays.map(({ date }) => date)),
  };
}
