import { randomUUID } from "node:crypto";
import type { GitCommit } from "@/core/formats/git-log";
import type { HostChange, HostPerson, HostReview } from "./state";

/*
 * What the host tells, as CloudEvents 1.0 with CDEvents 0.4 in them; CDEvents has no word for commits
 * that were pushed, so that type is made as it says tools make theirs.
 */

const CDEVENTS = "0.4.1";

interface Told {
  type: string;
  /** The host's own address. */
  host: string;
  repository: string;
  id: string;
  customData: object;
}

function eventOf({ type, host, repository, id, customData }: Told): object {
  const [eventId, time] = [randomUUID(), new Date().toISOString()];
  const source = `${host}/${repository}`;
  return {
    ...{ specversion: "1.0", id: eventId, source, type, time, subject: id },
    datacontenttype: "application/json",
    data: {
      context: { version: CDEVENTS, id: eventId, source, type, timestamp: time },
      subject: { id, source, content: { repository: { id: repository, source } } },
      customData,
    },
  };
}

/** Where something of a repository can be looked at. */
export interface Place {
  host: string;
  repository: string;
}

/** Where a branch stands among the others, and is proposed to be merged. */
const pageOfBranch = ({ host, repository }: Place): string => `${host}/${repository}`;

export const branchTold = (
  place: Place,
  branch: string,
  predicate: "created" | "deleted",
  by: HostPerson | null,
): object =>
  eventOf({
    ...place,
    type: `dev.cdevents.branch.${predicate}.0.2.0`,
    id: branch,
    customData: { ...(by ? { by } : {}), url: pageOfBranch(place) },
  });

/** More commits belong into a further event. */
const COMMITS_AT_ONCE = 200;

/** Git counts nothing of a merge, which does not mean that it changes nothing. */
const withoutSize = ({ parents, message }: Pick<GitCommit, "parents" | "message">) => ({
  parents,
  message,
});

/** A push, in as many events as it needs: the earliest commits first. */
export function pushTold(
  { host, repository }: Place,
  {
    branch,
    main,
    head,
    forced,
    by,
    commits,
  }: {
    branch: string;
    main: boolean;
    head: string;
    forced: boolean;
    by: HostPerson | null;
    /** The latest first, as git tells them. */
    commits: readonly GitCommit[];
  },
): object[] {
  const told = commits.toReversed().map(({ hash, name, mail, authoredAt, ...commit }) => ({
    ...(commit.parents.length > 1 ? withoutSize(commit) : commit),
    id: hash,
    message: commit.message.slice(0, 20_000),
    author: { name: name.slice(0, 400), mail: mail.slice(0, 400) },
    authoredAt: new Date(authoredAt).toISOString(),
    url: `${host}/${repository}/commit/${hash}`,
  }));
  const parts = Math.max(1, Math.ceil(told.length / COMMITS_AT_ONCE));
  return Array.from({ length: parts }, (_, i) =>
    eventOf({
      ...{ host, repository, type: "dev.cdeventsx.zigzag-commits.pushed.0.1.0", id: branch },
      customData: {
        ...{ main, head, forced, ...(by ? { by } : {}) },
        url: pageOfBranch({ host, repository }),
        commits: told.slice(i * COMMITS_AT_ONCE, (i + 1) * COMMITS_AT_ONCE),
      },
    }),
  );
}

/** What is known of a change beside what the host keeps. */
export interface ChangeFacts {
  files: number;
  insertions: number;
  deletions: number;
  behind: number;
  mergesCleanly: boolean;
}

export const changeTold = (
  { host, repository }: Place,
  { number, title, branch, head, author, mergedAs }: HostChange,
  predicate: "created" | "updated" | "merged" | "abandoned",
  { by, facts }: { by: HostPerson; facts: ChangeFacts | null },
): object =>
  eventOf({
    ...{ host, repository, type: `dev.cdevents.change.${predicate}.0.3.0` },
    id: `${repository}/${number}`,
    customData: {
      ...{ title, branch, head, author, by, ...facts },
      ...(mergedAs ? { commit: mergedAs } : {}),
      url: `${host}/${repository}/changes/${number}`,
    },
  });

export const tagTold = (
  { host, repository }: Place,
  { tag, commit, by }: { tag: string; commit: string; by: HostPerson },
): object =>
  eventOf({
    ...{ host, repository, type: "dev.cdeventsx.zigzag-tag.created.0.1.0", id: tag },
    customData: { commit, by, url: `${host}/${repository}/commit/${commit}` },
  });

export const reviewTold = (
  { host, repository }: Place,
  { number, title, branch }: HostChange,
  { by, verdict, words, head }: HostReview,
): object =>
  eventOf({
    ...{ host, repository, type: "dev.cdevents.change.reviewed.0.3.0" },
    id: `${repository}/${number}`,
    customData: { title, branch, by, verdict, head, ...(words ? { words } : {}) },
  });
