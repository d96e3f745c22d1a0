interface MarkdownNode {
  type: string;
  value?: string;
  children?: MarkdownNode[];
}

const HOLDS_WORDS = new Set(["paragraph", "heading", "tableCell"]);

/**
 * HTML inside Markdown stays in view as the text that it is; the sanitiser alone would take it out,
 * words and all.
 */
export function htmlAsText() {
  const change = (node: MarkdownNode, isInline: boolean): void => {
    node.children = node.children?.map((child) => {
      if (child.type !== "html") {
        change(child, isInline || HOLDS_WORDS.has(child.type));
        return child;
      }
      const text = { type: "text", value: child.value };
      return isInline ? text : { type: "paragraph", children: [text] };
    });
  };
  return (tree: MarkdownNode) => change(tree, false);
}
