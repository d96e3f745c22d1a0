const ESCAPES: Record<string, string> = { "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;", "'": "&#39;" };
const escaped = (text: string) => text.replace(/[&<>"']/g, (c) => ESCAPES[c]);

/** Whether a request comes from a browser's own form, that wants to show a page, and not from a script. */
export const wantsPage = (request: Request) => request.headers.get("accept")?.startsWith("text/html") ?? false;

/** An answer for browsers without JavaScript. They keep what was typed when one goes back. */
export function plainPage(status: number, title: string, sentences: readonly string[]): Response {
  const html = `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escaped(title)}</title><body style="max-width:36rem;margin:3rem auto;padding:0 1rem;font:16px/1.5 sans-serif"><h1 style="font-size:1.4rem">${escaped(title)}</h1><ul>${sentences.map((s) => `<li>${escaped(s)}</li>`).join("")}</ul><p>Go back with your browser: what you typed is still there.</p></body></html>`;
  return new Response(html, { status, headers: { "Content-Type": "text/html; charset=utf-8", "Cache-Control": "no-store" } });
}
