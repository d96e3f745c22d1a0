import type { ReactNode } from "react";
import Markdown, { type Components } from "react-markdown";
import rehypeSanitize from "rehype-sanitize";
import remarkGfm from "remark-gfm";
import { isTame } from "@/core/formats/markdown-bounds";
import { htmlAsText } from "./html-as-text";
import { ShownPlain } from "./shown-plain";

const COMPONENTS: Components = {
  a: ({ children, href }) => (
    <a href={href} rel="noreferrer noopener nofollow" target="_blank">
      {children}
    </a>
  ),
  img: ({ alt }) => <em>[picture: {alt}]</em>,
};

/**
 * Text from people, as sanitised Markdown (CommonMark and GFM); HTML in it is shown as text, never
 * run. What cannot be shown so is shown as it is.
 */
export function Words({ text }: { text: string }) {
  const plain = <p className="whitespace-pre-wrap [overflow-wrap:anywhere]">{text}</p>;
  return (
    <div className="words">
      <ShownPlain plain={plain} key={text}>
        {markdown(text) ?? plain}
      </ShownPlain>
    </div>
  );
}

/**
 * Read here and not while it is rendered, so that a text that cannot be read ends no page, on the
 * server either.
 */
function markdown(text: string): ReactNode {
  if (!isTame(text)) return null;
  try {
    return Markdown({
      children: text,
      remarkPlugins: [remarkGfm, htmlAsText],
      rehypePlugins: [rehypeSanitize],
      components: COMPONENTS,
    });
  } catch {
    return null;
  }
}
