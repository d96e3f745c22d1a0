const ESCAPES: Record<string, string> = {
  "&": "&amp;",
  "<": "&lt;",
  ">": "&gt;",
  '"': "&quot;",
  "'": "&#39;",
};
const escaped = (text: string) => text.replace(/[&<>"']/g, (c) => ESCAPES[c]);

/**
 * Whether a request comes from a browser's own form, that wants to show a page, and not from a
 * script.
 */
export const wantsPage = (request: Request) =>
  request.headers.get("accept")?.startsWith("text/html") ?? false;

const STYLE =
  "max-width:36rem;margin:15vh auto;padding:0 1.5rem;font:16px/1.5 sans-serif;color:#26302d;background:#faf8f3";

/**
 * A page that needs nothing but itself. @param againAfter asks again by itself after so many
 * seconds
 */
export function plainHtml(
  title: string,
  sentences: readonly string[],
  againAfter?: number,
): string {
  const again = againAfter ? `<meta http-equiv="refresh" content="${againAfter}">` : "";
  const said =
    sentences.length === 1
      ? `<p>${escaped(sentences[0])}</p>`
      : `<ul>${sentences.map((s) => `<li>${escaped(s)}</li>`).join("")}</ul>`;
  return `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">${again}<title>${escaped(title)}</title><body style="${STYLE}"><h1 style="font-size:1.4rem">${escaped(title)}</h1>${said}</body></html>`;
}

/** An answer for browsers without JavaScript. They keep what was typed when one goes back. */
export function plainPage(status: number, title: string, sentences: readonly string[]): Response {
  const html = plainHtml(title, [
    ...sentences,
    "Go back with your browser: what you typed is still there.",
  ]);
  return new Response(html, {
    status,
    headers: { "Content-Type": "text/html; charset=utf-8", "Cache-Control": "no-store" },
  });
}
