"use client";
import { useMemo } from "react";
import Link from "next/link";
import type { Components } from "react-markdown";
import { projectKeyOf } from "@/core/item/key";
import { shortHash } from "@/core/ship/short-hash";
import type { NamedCommit, NamedItem } from "@/core/talk/talk-view";
import { Words } from "@/ui/kit/words";
import { COMMIT_LINK, ITEM_LINK, nameInWords, type KnownInWords } from "./name-in-words";

/** What somebody wrote about an item: Markdown, with names that stand out and items that open. */
export function SaidWords({ text, known }: { text: string; known: KnownInWords }) {
  const plugins = useMemo(() => [nameInWords(known)], [known]);
  const components = useMemo<Components>(
    () => ({
      a: ({ href, children }) => {
        const key = href?.startsWith(ITEM_LINK) ? href.slice(ITEM_LINK.length) : null;
        const item = key === null ? undefined : known.items[key];
        if (item) return <ItemInWords item={item} />;
        const hash = href?.startsWith(COMMIT_LINK) ? href.slice(COMMIT_LINK.length) : null;
        const commit = hash === null ? undefined : known.commits[hash];
        if (commit) return <CommitInWords commit={commit} />;
        return (
          <a href={href} rel="noreferrer noopener nofollow" target="_blank">
            {children}
          </a>
        );
      },
    }),
    [known],
  );
  return <Words text={text} plugins={plugins} components={components} />;
}

/** A key in a text, with how that item stands. */
function ItemInWords({ item: { key, title, stateName, finished, assignee } }: { item: NamedItem }) {
  return (
    <Link
      href={`/p/${projectKeyOf(key)}/items/${key}`}
      prefetch={false}
      className="item-in-words"
      title={title}
      data-finished={finished || undefined}
    >
      <span className="key">{key}</span>
      <span className="item-in-words-state">
        {stateName}
        {assignee !== null && !finished && `, ${assignee.split(" ")[0]}`}
      </span>
    </Link>
  );
}

/** A hash in a text, with what that commit says; it leads to the code host where that told an address. */
function CommitInWords({
  commit: { hash, repository, subject, by, onMain, url },
}: {
  commit: NamedCommit;
}) {
  const said = (
    <>
      <span className="key">{shortHash(hash)}</span>
      <span className="item-in-words-state">{subject}</span>
    </>
  );
  const title = `${repository}: ${subject}, ${by}${onMain ? ", on main" : ", not on main yet"}`;
  if (url === null)
    return (
      <span className="item-in-words" title={title}>
        {said}
      </span>
    );
  return (
    <a
      className="item-in-words"
      href={url}
      title={title}
      rel="noreferrer noopener nofollow"
      target="_blank"
    >
      {said}
    </a>
  );
}
