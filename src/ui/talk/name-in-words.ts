import { stretchesNaming, type Nameable } from "@/core/talk/named";
import type { NamedItem } from "@/core/talk/talk-view";

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

/** What stands in a text: keys of items that one may see, and names of people and teams. */
export interface KnownInWords {
  items: Record<string, NamedItem>;
  nameable: readonly Nameable[];
}

/** The address by which the page knows a key in a text again. */
export const ITEM_LINK = "#item-";

/** Keys of items in a Markdown text become links, and who is named stands out. */
export function nameInWords({ items, nameable }: KnownInWords) {
  const split = (value: string): MarkdownNode[] => {
    const parts: { from: number; to: number; node: MarkdownNode }[] = [];
    for (const match of value.matchAll(KEY)) {
      const [key] = match;
      if (!items[key]) continue;
      const node = { type: "link", url: ITEM_LINK + key, children: [{ type: "text", value: key }] };
      parts.push({ from: match.index, to: match.index + key.length, node });
    }
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
      if (!LEFT_ALONE.has(child.type)) change(child);
      return [child];
    });
  };
  return () => change;
}
