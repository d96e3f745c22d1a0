import { and, desc, eq, isNotNull, isNull, ne } from "drizzle-orm";
import { Feed } from "feed";
import { asHtml } from "@/core/formats/as-html";
import { plainText } from "@/core/formats/plain-text";
import type { PublicReleases } from "@/core/ship/release/release-page";
import { plainChange } from "@/core/workflow/design-change";
import { database, transact, type Reader } from "@/db/connection";
import { item, knownProblem, project, release } from "@/db/schema";
import { appAddress } from "../../mail/settings";
import { enterProject } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { openTo } from "../../plan/timeboxes";
import { notFound } from "../../refused";
import { announceDesign } from "../../workflow/announce";
import { keepDesignChange } from "../../workflow/design-history";

/** More nobody reads; the feed has them too. */
const MOST = 40;
const MOST_KNOWN = 40;

/** Where anyone reads what went out of a project. */
export const publicAddress = (key: string): string => appAddress(`/releases/${key}`);
const feedAddress = (key: string): string => appAddress(`/api/public/releases/${key}`);

/** Says whether the notes of a project's releases may be read without an account. @throws Refused */
export async function publishReleases(
  viewer: Viewer,
  projectKey: string,
  { on }: { on: boolean },
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const where = { key: projectKey };
    const access = await enterProject({ reader: tx, viewer, where, action: "edit workflow" });
    const { id: projectId, newsPublic } = access.project;
    if (newsPublic === on) return;
    await tx.update(project).set({ newsPublic: on }).where(eq(project.id, projectId));
    await keepDesignChange(
      tx,
      { projectId, byId: viewer.personId, at: now },
      plainChange(
        "sprints and releases",
        on ? "let anyone read the notes of releases" : "keeps the notes of releases inside",
      ),
    );
    await announceDesign(tx, projectId, { kind: "project changed", data: {} });
  });
}

/**
 * What went out of a project, for anyone: the notes as they went out, and the problems that are known.
 * Where the project does not want that, or is put away, it is as if there were none. @throws Refused
 */
export async function readPublicReleases(projectKey: string): Promise<PublicReleases> {
  const reader = database();
  const [of] = await reader
    .select()
    .from(project)
    .where(
      and(eq(project.key, projectKey), eq(project.newsPublic, true), isNull(project.putAwayAt)),
    );
  if (!of) throw notFound("page of releases");
  const [releases, known] = await Promise.all([
    reader
      .select({
        id: release.id,
        name: release.name,
        outAt: release.releasedAt,
        notes: release.outNotes,
        withdrawnAt: release.withdrawnAt,
      })
      .from(release)
      .where(
        and(
          openTo(reader, "release", release.id, of.id),
          isNotNull(release.releasedAt),
          isNotNull(release.outNotes),
          isNull(release.removedAt),
        ),
      )
      .orderBy(desc(release.releasedAt))
      .limit(MOST),
    knownOf(reader, of.id),
  ]);
  return {
    ...{ key: of.key, name: of.name, zone: of.zone, known, feed: feedAddress(of.key) },
    releases: releases.map(({ outAt, notes, ...one }) => ({
      ...{ ...one, outAt: outAt!, notes: withoutTitle(notes!) },
    })),
  };
}

/** The name of the release stands above the notes already. */
const withoutTitle = (markdown: string): string => markdown.split("\n").slice(1).join("\n").trim();

/** Problems that were published, of items that are open and that everybody may see. */
async function knownOf(reader: Reader, projectId: string): Promise<string[]> {
  const rows = await reader
    .select({ words: knownProblem.words })
    .from(knownProblem)
    .innerJoin(item, eq(item.id, knownProblem.itemId))
    .where(
      and(
        eq(item.projectId, projectId),
        eq(item.restricted, false),
        isNull(item.withdrawnAt),
        ne(item.stateKind, "finished"),
      ),
    )
    .orderBy(knownProblem.words)
    .limit(MOST_KNOWN);
  return rows.map(({ words }) => words);
}

/** The same as an Atom feed (RFC 4287). @throws Refused */
export async function readReleaseFeed(projectKey: string): Promise<string> {
  const { key, name, releases } = await readPublicReleases(projectKey);
  const feed = new Feed({
    id: `urn:x-zigzag:releases:${key}`,
    title: plain(`What went out of ${name}`),
    link: publicAddress(key),
    copyright: "",
    generator: "Zigzag Lane",
    feedLinks: { atom: feedAddress(key) },
    updated: new Date(
      Math.max(0, ...releases.map(({ outAt, withdrawnAt }) => withdrawnAt ?? outAt)),
    ),
    author: { name: plain(name) },
  });
  for (const { id, name: called, outAt, notes, withdrawnAt } of releases)
    feed.addItem({
      id: `urn:x-zigzag:release:${id}`,
      title: plain(withdrawnAt === null ? called : `${called}, taken back`),
      link: `${publicAddress(key)}#${encodeURIComponent(id)}`,
      date: new Date(withdrawnAt ?? outAt),
      published: new Date(outAt),
      description: plain(notes),
    });
  return feed.atom1();
}

/** As HTML in which everything is text. */
const plain = (text: string): string => asHtml(plainText(text));
