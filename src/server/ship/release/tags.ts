import { and, desc, eq, inArray, isNotNull, isNull, ne } from "drizzle-orm";
import { v7 as newId } from "uuid";
import { environmentKey } from "@/core/ship/environment";
import type { ReleasePage, ReleaseTagView } from "@/core/ship/release/release-page";
import type { TagBody } from "@/core/ship/release/tag";
import { database, transact, type Reader } from "@/db/connection";
import { codeBranch, codeRepository, deployment, eventSource, releaseTag } from "@/db/schema";
import { askOutside, namedOutside, wholeAddress } from "../../events/ask-outside";
import { announce } from "../../events/announce";
import { speaksFor } from "../../events/speakers";
import type { Viewer } from "../../people/viewer";
import { invalid } from "../../refused";
import { environmentsOf } from "../environments";
import { enterRelease, type OfRelease } from "./enter-release";

/**
 * Asks code hosts to tag the commit that a release went out with: what is live, else what main ends with. Nothing is
 * changed by that: the host's own event says that the tag is there. @returns who did not take it, and why
 * @throws Refused
 */
export async function tagRelease(
  viewer: Viewer,
  at: OfRelease,
  { name, in: wanted }: TagBody,
  now = Date.now(),
): Promise<{ refused: { repository: string; why: string }[] }> {
  const { access } = await transact((tx) => enterRelease(tx, viewer, at));
  const reader = database();
  const places = (await placesOf(reader, access.project.id)).filter(({ repositoryId }) =>
    wanted.includes(repositoryId),
  );
  if (places.length < new Set(wanted).size)
    throw invalid("One of these takes no tags.", "Look at the page again.");
  const by = await namedOutside(viewer);
  const refused: { repository: string; why: string }[] = [];
  for (const { repositoryId, repository, commit, asked } of places) {
    const said = { name, commit, askedBy: viewer.personId, askedAt: now, refused: null };
    // Before it is asked for: the host may be quick to say that it is there.
    await reader
      .insert(releaseTag)
      .values({ releaseId: at.release, repositoryId, ...said })
      .onConflictDoUpdate({
        target: [releaseTag.releaseId, releaseTag.repositoryId],
        set: { ...said, tagAt: null },
      });
    const why = await askOutside(asked, {
      ...{ id: newId(), type: "dev.cdeventsx.zigzag-request.tag.0.1.0", at: now },
      customData: { repository, tag: name, commit, by },
    });
    if (why === null) continue;
    refused.push({ repository, why });
    await reader
      .update(releaseTag)
      .set({ refused: why })
      .where(and(eq(releaseTag.releaseId, at.release), eq(releaseTag.repositoryId, repositoryId)));
  }
  await transact((tx) =>
    announce(tx, access.project.id, { kind: "code changed", data: { itemId: null } }, now),
  );
  return { refused };
}

interface Place {
  repositoryId: string;
  repository: string;
  commit: string;
  live: boolean;
  asked: { secret: string; address: string };
}

/** Where a project's code could be tagged: repositories whose host takes requests, and has commits. */
async function placesOf(reader: Reader, projectId: string): Promise<Place[]> {
  const rows = await reader
    .select({
      repositoryId: codeRepository.id,
      repository: codeRepository.name,
      head: codeBranch.head,
      secret: eventSource.secret,
      asksAt: eventSource.asksAt,
    })
    .from(codeRepository)
    .innerJoin(eventSource, eq(eventSource.id, codeRepository.sourceId))
    .innerJoin(
      codeBranch,
      and(
        eq(codeBranch.repositoryId, codeRepository.id),
        codeBranch.main,
        isNull(codeBranch.goneAt),
        isNotNull(codeBranch.head),
      ),
    )
    .where(and(speaksFor(projectId), isNotNull(eventSource.asksAt)))
    .orderBy(codeRepository.name);
  const live = (await environmentsOf(reader, projectId)).find((one) => one.live);
  const there = await liveCommits(
    reader,
    rows.map(({ repositoryId }) => repositoryId),
    live ? environmentKey(live.name) : null,
  );
  return rows.flatMap(({ repositoryId, repository, head, secret, asksAt }): Place[] => {
    const address = wholeAddress(asksAt!, process.env.CODE_URL);
    const commit = there.get(repositoryId) ?? head!;
    const isLive = there.has(repositoryId);
    return address === null
      ? []
      : [{ repositoryId, repository, commit, live: isLive, asked: { secret, address } }];
  });
}

/** What is live of some repositories, by their ids. */
async function liveCommits(
  reader: Reader,
  repositoryIds: readonly string[],
  environment: string | null,
): Promise<Map<string, string>> {
  if (repositoryIds.length === 0 || environment === null) return new Map();
  const rows = await reader
    .selectDistinctOn([deployment.repositoryId], {
      repositoryId: deployment.repositoryId,
      commit: deployment.commit,
    })
    .from(deployment)
    .where(
      and(
        inArray(deployment.repositoryId, [...repositoryIds]),
        eq(deployment.environment, environment),
        ne(deployment.outcome, "failed"),
      ),
    )
    .orderBy(deployment.repositoryId, desc(deployment.at));
  return new Map(
    rows.flatMap(({ repositoryId, commit }) => (commit ? [[repositoryId, commit] as const] : [])),
  );
}

/** Where a release could be tagged, and the tags that were asked for. */
export async function readTags(
  reader: Reader,
  projectId: string,
  releaseId: string,
): Promise<Pick<ReleasePage, "tags" | "taggable">> {
  const [places, rows] = await Promise.all([
    placesOf(reader, projectId),
    reader
      .select({ tag: releaseTag, repository: codeRepository.name })
      .from(releaseTag)
      .innerJoin(codeRepository, eq(codeRepository.id, releaseTag.repositoryId))
      .where(eq(releaseTag.releaseId, releaseId))
      .orderBy(codeRepository.name),
  ]);
  return {
    tags: rows.map(({ tag, repository }): ReleaseTagView => {
      const { repositoryId, name, commit, refused, tagAt } = tag;
      return { repositoryId, repository, name, commit, refused, tagAt };
    }),
    taggable: places.map(({ repositoryId, repository, commit, live }) => ({
      ...{ repositoryId, repository, commit, live },
    })),
  };
}
