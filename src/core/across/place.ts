/*
 * Places above the projects: where items of several projects are looked at together. A person has
 * one of their own, every team has one, and groups of projects are made by people.
 */

export type AcrossPlace =
  { kind: "mine" } | { kind: "team"; id: string } | { kind: "group"; id: string };

const TEAM = "team-";
const GROUP = "group-";

/**
 * How a place is called in addresses. The keys of projects are capital letters, so none is both.
 * @example acrossKey({ kind: "team", id: "quayside" }) // "team-quayside"
 */
export const acrossKey = (place: AcrossPlace): string =>
  place.kind === "mine" ? "mine" : `${place.kind}-${place.id}`;

/** The place that a key stands for; null where it is that of a project, or of nothing. */
export function readAcrossKey(key: string): AcrossPlace | null {
  if (key === "mine") return { kind: "mine" };
  if (key.startsWith(TEAM) && key.length > TEAM.length)
    return { kind: "team", id: key.slice(TEAM.length) };
  if (key.startsWith(GROUP) && key.length > GROUP.length)
    return { kind: "group", id: key.slice(GROUP.length) };
  return null;
}

/** Where the items of a project, or of a place above the projects, are looked at. */
export const flowPath = (key: string): string =>
  readAcrossKey(key) === null ? `/p/${key}/flow` : `/across/${key}`;
