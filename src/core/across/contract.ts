import { z } from "zod";
import { answered, contract } from "@/core/contract/contract";

/** So many projects a group holds at most. */
export const MOST_IN_GROUP = 50;

/** A place above the projects, as it is offered to somebody. */
export interface OfferedPlace {
  key: string;
  name: string;
  kind: "mine" | "team" | "group";
  /** Of a group those of its projects that this person may see. */
  projectIds: string[];
  mayChange: boolean;
}

/** All places above the projects that somebody may open. */
export interface AcrossPlaces {
  places: OfferedPlace[];
  /** Groups that were put away and that this person may bring back. */
  away: { id: string; name: string }[];
  projects: { id: string; key: string; name: string }[];
}

const id = z.uuid();
const group = {
  id,
  name: z.string().trim().min(1, "A group needs a name.").max(40, "Use at most 40 characters."),
  projectIds: z
    .array(z.string().min(1).max(64))
    .min(1, "A group needs a project.")
    .max(MOST_IN_GROUP, `A group has at most ${MOST_IN_GROUP} projects.`),
};

export const acrossBody = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("make"), ...group }),
  z.object({ kind: z.literal("change"), ...group }),
  z.object({ kind: z.literal("put away"), id }),
  z.object({ kind: z.literal("bring back"), id }),
]);
export type AcrossRequest = z.output<typeof acrossBody>;

export const acrossContract = {
  /** The places above the projects. */
  read: contract({
    method: "GET",
    path: "/api/across",
    answer: answered<AcrossPlaces>(),
    kept: "across",
  }),
  /** Makes, changes and puts away groups of projects. */
  change: contract({
    method: "POST",
    path: "/api/across",
    body: acrossBody,
    answer: answered<AcrossPlaces>(),
  }),
};
