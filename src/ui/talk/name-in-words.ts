import { HASH } from "@/core/ship/hashes-in";
import { stretchesNaming, type Nameable } from "@/core/talk/named";
import type { NamedCommit, NamedItem } from "@/core/talk/talk-view";

interface MarkdownNode {
  type: string;
  value?: string;
  url?: string;
  title?: string | null;
  children?: MarkdownNode[];
  data?: { hName?: string; hProperties?: Record<string, string> };
}

const KEY = /\b[A-Z][A-Z0-9]{1,9}-\d{1,9}\b/g;
const LEFT_ALONE = new Set(["link", "linkReference", "inlineCode", "code", "html"]);

/** What stands in a text: keys of items that one may see, commits, and names of people and teams. */
export interface KnownInWords {
  items: Record<string, NamedItem>;
  commits: Record<string, NamedCommit>;
  nameable: readonly Nameable[];
}

/** The address by which the page knows a key in a text again. */
export const ITEM_LINK = "#item-";
/** The same of a commit. */
export const COMMIT_LINK = "#commit-";

const commitLink = (hash: string): MarkdownNode => ({
  type: "link",
  url: COMMIT_LINK + hash,
  children: [{ type: "text", value: hash }],
});

/** Keys of items and commits in a Markdown text become links, and who is named stands out. */
export function nameInWords({ items, commits, nameable }: KnownInWords) {
  const split = (value: string): MarkdownNode[] => {
    const parts: { from: number; to: number; node: MarkdownNode }[] = [];
    for (const match of value.matchAll(KEY)) {
      const [key] = match;
      if (!items[key]) continue;
      const node = { type: "link", url: ITEM_LINK + key, children: [{ type: "text", value: key }] };
      parts.push({ from: match.index, to: match.index + key.length, node });
    }
    for (const { index, 0: hash } of value.matchAll(HASH))
      if (commits[hash])
        parts.push({ from: index, to: index + hash.length, node: commitLink(hash) });
    for (const { from, to } of stretchesNaming(value, nameable))
      parts.push({
        from,
        to,
        node: { type: "strong", children: [{ type: "text", value: value.slice(from, to) }] },
      });
    const nodes: MarkdownNode[] = [];
    let at = 0;
    for (const { from, to, node } of parts.toSorted((a, b) => a.from - b.from)) {
      if (from < at) continue;
      if (from > at) nodes.push({ type: "text", value: value.slice(at, from) });
      nodes.push(node);
      at = to;
    }
    if (at < value.length) nodes.push({ type: "text", value: value.slice(at) });
    return nodes;
  };
  const change = (node: MarkdownNode): void => {
    node.children = node.children?.flatMap((child) => {
      if (child.type === "text" && child.value) return split(child.value);
      // Many write a hash as it is, between the signs for that.
      if (child.type === "inlineCode" && child.value && commits[child.value])
        return [commitLink(child.value)];
      if (!LEFT_ALONE.has(child.type)) change(child);
      return [child];
    });
  };
  return () => change;
}
