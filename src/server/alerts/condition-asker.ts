import { eq } from "drizzle-orm";
import type { Happened } from "@/core/alerts/happened";
import type { StepDoer } from "@/core/alerts/own-rule";
import {
  asksRelatives,
  asksWhoLooks,
  looksAround,
  type Condition,
} from "@/core/condition/condition";
import { holds } from "@/core/condition/evaluate";
import type { AskedItem } from "@/core/condition/facts";
import type { ItemSnapshot } from "@/core/item/fields";
import type { Reader } from "@/db/connection";
import { project, teamMember } from "@/db/schema";
import { askedFor } from "../condition/asked-items";
import { projectAsker } from "../condition/asker";
import { seesAnywhere, type ItemColumns } from "../people/access";
import type { Viewer } from "../people/viewer";

/** What happened to an item, as rules of people's own are held against it. */
export interface Occurrence {
  of: ItemSnapshot;
  happened: readonly Happened[];
  /** Who did a step; null for what stands in no history. */
  doerOf: (seq: number) => StepDoer | null;
  /** Who did it or set it off: nobody is told of their own doing. */
  doers: ReadonlySet<string>;
  at: number;
}

/** Whether conditions hold for an item, each as its person sees what stands around it. */
export function conditionAsker(reader: Reader, { of, at }: Occurrence) {
  const asking = once(() => projectAsking(reader, of.projectId, at));
  const around = new Map<string, Promise<AskedItem[]>>();
  return async (viewer: Viewer, condition: Condition): Promise<boolean> => {
    const project = await asking();
    const { personId } = viewer;
    const teamIds = asksWhoLooks(condition) ? await teamsOf(reader, personId) : [];
    const looks = looksAround(condition);
    const sees = looks ? (other: ItemColumns) => seesAnywhere(reader, viewer, other) : undefined;
    // What stands around it differs by who looks; the item itself does not.
    const key = looks ? personId : "";
    const place = `${asksRelatives(condition)} ${key}`;
    const asked = around.get(place) ?? askedFor([condition], reader, [of], project.ownFields, sees);
    around.set(place, asked);
    const [one] = await asked;
    return holds(condition, one, { ...project, personId, teamIds });
  };
}

const once = <T>(make: () => Promise<T>): (() => Promise<T>) => {
  let made: Promise<T> | undefined;
  return () => (made ??= make());
};

async function projectAsking(reader: Reader, projectId: string, at: number) {
  const [of] = await reader
    .select({ id: project.id, zone: project.zone })
    .from(project)
    .where(eq(project.id, projectId));
  return projectAsker(reader, of, at);
}

async function teamsOf(reader: Reader, personId: string): Promise<string[]> {
  const rows = await reader
    .select({ id: teamMember.teamId })
    .from(teamMember)
    .where(eq(teamMember.personId, personId));
  return rows.map(({ id }) => id);
}
