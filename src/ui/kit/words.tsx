import Markdown from "react-markdown";
import rehypeSanitize from "rehype-sanitize";
import remarkGfm from "remark-gfm";

/** Text from people, as sanitised Markdown (CommonMark and GFM); HTML in it is shown as text, never run. */
export function Words({ text }: { text: string }) {
  return (
    <div className="words">
      <Markdown
        remarkPlugins={[remarkGfm]}
        rehypePlugins={[rehypeSanitize]}
        components={{
          a: ({ children, href }) => (
            <a href={href} rel="noreferrer noopener nofollow" target="_blank">
              {children}
            </a>
          ),
          img: ({ alt }) => <em>[picture: {alt}]</em>,
        }}
      >
        {text}
      </Markdown>
    </div>
  );
}
