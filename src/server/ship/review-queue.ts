import { and, eq, gte, inArray, isNotNull, isNull, sql } from "drizzle-orm";
import { awayWords } from "@/core/alerts/hours";
import { DAY, type Instant } from "@/core/calendar/instant";
import { listWords } from "@/core/formats/list-words";
import { grouped } from "@/core/item/grouped";
import { daysThere } from "@/core/ship/open-work";
import {
  offeredReviewers,
  usualTime,
  type ReviewCandidate,
  type ReviewQueue,
  type ReviewRow,
} from "@/core/ship/review-queue";
import { meaningOf } from "@/core/workflow/state-meaning";
import { database, type Reader } from "@/db/connection";
import { codeChange, codeReview, item, itemCode } from "@/db/schema";
import { hoursOf } from "../alerts/hours";
import { seenIn } from "../item/list/enter";
import { seenOf } from "../item/list/named";
import { readRowsOf } from "../item/list/read";
import type { ItemRow } from "../item/rows";
import { enterProject } from "../people/access";
import { dutyBound } from "../people/duties";
import { roster } from "../people/roster";
import type { Viewer } from "../people/viewer";
import { loadProjectWorkflows } from "../workflow/load";
import { peopleOfMails } from "./code-people";
import { readCodeRows, rowsOfItem } from "./code-rows";
import { repositoriesOf } from "./repository";
import { mailsIn, worksOf } from "./works";

/** More nobody reads in one go. */
const MOST = 300;
/** What was done longer ago says little of who knows a part now. */
const KNOWN_DAYS = 365;
/** How long reviews take is told of so many days. */
const USUAL_DAYS = 90;

/** What waits for a review in a project, and is being read. @throws Refused */
export async function readReviewQueue(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<ReviewQueue> {
  const reader = database();
  const where = { key: projectKey };
  const access = await enterProject({ reader, viewer, where, action: "read project" });
  const { id: projectId, key, name, zone } = access.project;
  const workflows = await loadProjectWorkflows(reader, projectId);
  const states = workflows
    .flatMap(({ states: all }) => all.map((state) => ({ state, ...meaningOf(state, all) })))
    .filter(({ ofReview }) => ofReview)
    .map(({ state }) => state);
  const stateIds = states.map(({ id }) => id);
  const items =
    stateIds.length === 0
      ? []
      : await readRowsOf(
          {
            reader,
            where: and(seenIn(reader, viewer, [projectId]).where, inArray(item.stateId, stateIds)),
          },
          MOST,
        );
  const ids = items.map(({ id }) => id);
  const [code, { people }, candidates, usual] = await Promise.all([
    readCodeRows(reader, ids),
    roster(reader, projectId),
    readCandidates(reader, projectId, { stateIds, now }),
    readUsual(reader, viewer, projectId, now),
  ]);
  const named = await peopleOfMails(reader, mailsIn(code));
  const nameOf = (id: string | null) => people.find((one) => one.id === id)?.name ?? null;
  const rowOf = (row: ItemRow): ReviewRow => {
    const state = states.find(({ id }) => id === row.stateId)!;
    const works = worksOf(rowsOfItem(code, row.id), row.outside.changes, named);
    const authors = works.flatMap(({ commits }) => commits.flatMap(({ by }) => by.personId ?? []));
    const reviewer = nameOf(row.reviewerId);
    return {
      ...{ id: row.id, key: `${key}-${row.number}`, title: row.title, typeId: row.typeId },
      ...{ version: row.version, classOfService: row.classOfService, dueOn: row.dueOn },
      ...{ estimate: row.estimate, stateName: state.name, begun: state.kind === "working" },
      ...{ since: row.enteredStateAt, days: daysThere(row.enteredStateAt, zone, now) },
      builder: nameOf(row.assigneeId),
      reviewer: reviewer === null ? null : { id: row.reviewerId!, name: reviewer },
      works,
      offered: offeredReviewers(candidates(row.parts), {
        writers: new Set([...authors, ...(row.assigneeId ? [row.assigneeId] : [])]),
        part: row.parts.length > 0 ? listWords(row.parts) : null,
      }),
    };
  };
  return {
    project: { key, name, zone },
    me: viewer.personId,
    rows: items.map(rowOf),
    ...usual,
    rights: { edit: access.may("edit item") },
    now,
  };
}

/** Whose duty it is to review, with what each has to review and how much they know of some parts. */
async function readCandidates(
  reader: Reader,
  projectId: string,
  { stateIds, now }: { stateIds: readonly string[]; now: Instant },
): Promise<(parts: readonly string[]) => ReviewCandidate[]> {
  const bound = await dutyBound(reader, projectId, "reviews");
  const ids = bound.map(({ id }) => id);
  const [waiting, known, hours] = await Promise.all([
    // A fact of the project: it counts what one may not see too.
    stateIds.length === 0
      ? []
      : reader
          .select({ id: item.reviewerId, n: sql<number>`count(*)::int` })
          .from(item)
          .where(
            and(
              inArray(item.stateId, [...stateIds]),
              inArray(item.reviewerId, ids),
              isNull(item.withdrawnAt),
            ),
          )
          .groupBy(item.reviewerId),
    reader
      .select({ assigneeId: item.assigneeId, reviewerId: item.reviewerId, parts: item.parts })
      .from(item)
      .where(
        and(
          eq(item.projectId, projectId),
          gte(item.deliveredAt, now - KNOWN_DAYS * DAY),
          sql`${item.parts} <> '[]'::jsonb`,
        ),
      ),
    hoursOf(reader, ids),
  ]);
  const waits = new Map(waiting.map(({ id, n }) => [id, n]));
  return (parts) =>
    bound.map(({ id, name }) => ({
      ...{ id, name, waiting: waits.get(id) ?? 0, away: awayWords(hours(id), now) !== null },
      knows: known.filter(
        (one) =>
          (one.assigneeId === id || one.reviewerId === id) &&
          one.parts.some((part) => parts.includes(part)),
      ).length,
    }));
}

/** How long changes waited for the first word of a reviewer, and to be on main. */
async function readUsual(reader: Reader, viewer: Viewer, projectId: string, now: Instant) {
  const repositoryIds = (await repositoriesOf(reader, projectId)).map(({ id }) => id);
  const changes = await reader
    .select({
      id: codeChange.id,
      repositoryId: codeChange.repositoryId,
      name: codeChange.name,
      openedAt: codeChange.openedAt,
      endedAt: codeChange.endedAt,
      status: codeChange.status,
    })
    .from(codeChange)
    .where(
      and(
        inArray(codeChange.repositoryId, repositoryIds),
        gte(codeChange.openedAt, now - USUAL_DAYS * DAY),
        isNotNull(codeChange.authorMail),
      ),
    );
  if (changes.length === 0) return { firstLook: null, merged: null };
  const [reviews, links] = await Promise.all([
    reader
      .select({ changeId: codeReview.changeId, at: sql<number>`min(${codeReview.at})` })
      .from(codeReview)
      .where(
        inArray(
          codeReview.changeId,
          changes.map(({ id }) => id),
        ),
      )
      .groupBy(codeReview.changeId),
    reader
      .select()
      .from(itemCode)
      .where(and(eq(itemCode.kind, "change"), inArray(itemCode.repositoryId, repositoryIds))),
  ]);
  const seen = await seenOf(viewer, [...new Set(links.map(({ itemId }) => itemId))]);
  const byChange = grouped(links, ({ repositoryId, name }) => `${repositoryId} ${name}`);
  const idsOf = ({ repositoryId, name }: (typeof changes)[number]) =>
    (byChange.get(`${repositoryId} ${name}`) ?? [])
      .map(({ itemId }) => itemId)
      .filter((id) => seen.has(id));
  const first = new Map(reviews.map(({ changeId, at }) => [changeId, new Date(at).getTime()]));
  return {
    firstLook: usualTime(
      changes.flatMap((change) => {
        const at = first.get(change.id);
        return at === undefined ? [] : [{ ms: at - change.openedAt, ids: idsOf(change) }];
      }),
    ),
    merged: usualTime(
      changes.flatMap((change) =>
        change.status === "merged" && change.endedAt !== null
          ? [{ ms: change.endedAt - change.openedAt, ids: idsOf(change) }]
          : [],
      ),
    ),
  };
}
