import { flowPath, readAcrossKey } from "@/core/across/place";
import type { FindQuery } from "@/core/find/contract";
import { NOTHING_FOUND, type Found } from "@/core/find/found";
import { findPlaces } from "@/core/find/places";
import { readWanted } from "@/core/find/wanted";
import { database } from "@/db/connection";
import { acrossId } from "../across/ground";
import { readPlaces } from "../across/places";
import { accessibleProjects } from "../people/access";
import type { Viewer } from "../people/viewer";
import { findComments } from "./comments";
import { itemsIn } from "./items";
import { findLooks, findPeople } from "./names";
import { findReports } from "./reports";

/** So many are told at once. */
const MOST = { items: 8, comments: 4, reports: 4, people: 4, looks: 4, places: 5 };

/** Everything that fits what a person looks for, as far as they may see it. */
export async function findAll(viewer: Viewer, { q, at }: FindQuery): Promise<Found> {
  const reader = database();
  const wanted = readWanted(q);
  if (wanted.words.length === 0) return NOTHING_FOUND;
  const accesses = await accessibleProjects(reader, viewer);
  const projects = accesses.map(({ project }) => project);
  const projectIds = projects.map(({ id }) => id);
  const intakeIds = accesses
    .filter(({ may }) => may("read intake"))
    .map(({ project }) => project.id);
  const { places } = await readPlaces(viewer, reader);
  const grounds = [
    ...projects,
    ...places.flatMap(({ key, name }) => {
      const place = readAcrossKey(key);
      return place === null ? [] : [{ id: acrossId(viewer, place), key, name }];
    }),
  ].toSorted((a, b) => Number(b.key === at) - Number(a.key === at));
  const [items, comments, reports, people, looks] = await Promise.all([
    itemsIn(reader, viewer, projects, { wanted, here: at, limit: MOST.items }),
    findComments(reader, viewer, { wanted, projectIds, limit: MOST.comments }),
    findReports(reader, viewer, { wanted, projectIds: intakeIds, limit: MOST.reports }),
    findPeople(reader, { wanted, projectIds, limit: MOST.people }),
    findLooks(reader, viewer, { wanted, grounds, limit: MOST.looks }),
  ]);
  const found = findPlaces(wanted.words, {
    projects: accesses.map(({ project: { key, name }, may }) => ({ key, name, may })),
    others: othersOf(viewer, places),
    here: at ?? null,
  });
  return { items, comments, reports, people, looks, places: found.slice(0, MOST.places) };
}

const othersOf = (
  { administrator }: Viewer,
  across: readonly { key: string; name: string }[],
): { name: string; path: string }[] => [
  ...across.map(({ key, name }) => ({ name: `Across: ${name}`, path: flowPath(key) })),
  { name: "My account", path: "/account" },
  ...(administrator ? [{ name: "People and accounts", path: "/people" }] : []),
];
