import type { ReactNode } from "react";
import Markdown, { type Components, type Options } from "react-markdown";
import rehypeSanitize from "rehype-sanitize";
import remarkGfm from "remark-gfm";
import { isItemFileAddress } from "@/core/item/item-file";
import { isTame } from "@/core/formats/markdown-bounds";
import { htmlAsText } from "./html-as-text";
import { Picture } from "./picture";
import { ShownPlain } from "./shown-plain";

const COMPONENTS: Components = {
  a: ({ children, href }) => (
    <a href={href} rel="noreferrer noopener nofollow" target="_blank">
      {children}
    </a>
  ),
  // Only what was put to an item is drawn: nothing is fetched from elsewhere.
  img: ({ alt, src }) =>
    typeof src === "string" && isItemFileAddress(src) ? (
      <Picture src={src} alt={alt ?? ""} className="picture-in-words" />
    ) : (
      <em>[picture: {alt}]</em>
    ),
};

interface Written {
  text: string;
  /** What else is made of it, before it is sanitised. */
  plugins?: NonNullable<Options["remarkPlugins"]>;
  /** What is drawn in another way than elsewhere. */
  components?: Components;
}

const NONE: NonNullable<Options["remarkPlugins"]> = [];

/**
 * Text from people, as sanitised Markdown (CommonMark and GFM); HTML in it is shown as text, never
 * run. What cannot be shown so is shown as it is.
 */
export function Words({ text, plugins = NONE, components }: Written) {
  const plain = <p className="whitespace-pre-wrap [overflow-wrap:anywhere]">{text}</p>;
  return (
    <div className="words">
      <ShownPlain plain={plain} key={text}>
        {markdown({ text, plugins, components }) ?? plain}
      </ShownPlain>
    </div>
  );
}

/**
 * Read here and not while it is rendered, so that a text that cannot be read ends no page, on the
 * server either.
 */
function markdown({ text, plugins = NONE, components }: Written): ReactNode {
  if (!isTame(text)) return null;
  try {
    return Markdown({
      children: text,
      remarkPlugins: [remarkGfm, htmlAsText, ...plugins],
      rehypePlugins: [rehypeSanitize],
      components: components ? { ...COMPONENTS, ...components } : COMPONENTS,
    });
  } catch {
    return null;
  }
}
