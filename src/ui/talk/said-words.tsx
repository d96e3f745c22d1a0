"use client";
import { useMemo } from "react";
import Link from "next/link";
import type { Components } from "react-markdown";
import { projectKeyOf } from "@/core/item/key";
import type { NamedItem } from "@/core/talk/talk-view";
import { Words } from "@/ui/kit/words";
import { ITEM_LINK, nameInWords, type KnownInWords } from "./name-in-words";

/** What somebody wrote about an item: Markdown, with names that stand out and items that open. */
export function SaidWords({ text, known }: { text: string; known: KnownInWords }) {
  const plugins = useMemo(() => [nameInWords(known)], [known]);
  const components = useMemo<Components>(
    () => ({
      a: ({ href, children }) => {
        const key = href?.startsWith(ITEM_LINK) ? href.slice(ITEM_LINK.length) : null;
        const item = key === null ? undefined : known.items[key];
        if (item) return <ItemInWords item={item} />;
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
