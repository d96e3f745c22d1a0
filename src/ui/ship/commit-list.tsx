"use client";
import type { CodeCommit } from "@/core/ship/item-code";
import { shortHash } from "@/core/ship/short-hash";
import { ago, exact } from "@/ui/kit/time";
import { SizeWords } from "./work-words";

/** Commits, each with who wrote it, when, and how large it is. */
export function CommitList({
  commits,
  zone,
  now,
}: {
  commits: readonly CodeCommit[];
  zone: string;
  now: number;
}) {
  return (
    <ul className="commit-list">
      {commits.map(({ hash, subject, by, authoredAt, size, url, ...state }) => (
        <li key={hash} data-gone={state.leftBehind || state.revertedBy !== null || undefined}>
          <Hash hash={hash} url={url} />
          <span className="min-w-0">
            <span className="block break-words">{subject || "(no words)"}</span>
            <span className="block text-[12px] text-ink-soft">
              {by.name}, <span title={exact(authoredAt, zone)}>{ago(authoredAt, now)}</span>
              {size && (
                <>
                  {" · "}
                  <SizeWords size={size} />
                </>
              )}
              {state.leftBehind && (
                <b className="text-signal-ink"> · left behind by a later push</b>
              )}
              {state.revertedBy !== null && (
                <b className="text-alarm"> · taken back by {shortHash(state.revertedBy)}</b>
              )}
            </span>
          </span>
        </li>
      ))}
    </ul>
  );
}

/** The beginning of a hash; with a way to the host where it told one. */
export function Hash({ hash, url }: { hash: string; url: string | null }) {
  const short = shortHash(hash);
  if (url === null) return <code className="key">{short}</code>;
  return (
    <a className="key link" href={url} target="_blank" rel="noreferrer noopener">
      {short}
    </a>
  );
}
