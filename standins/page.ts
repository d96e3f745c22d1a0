/*
 * How the pages of the stand-ins look. They are small, need no script, and everything that somebody
 * wrote is written as text.
 */

const ENTITIES: Record<string, string> = {
  "&": "&amp;",
  "<": "&lt;",
  ">": "&gt;",
  '"': "&quot;",
  "'": "&#39;",
};
/** Words as they are shown: nothing in them is markup. */
export const text = (words: string) => words.replace(/[&<>"']/g, (c) => ENTITIES[c]);

/** "2026-11-23 14:05" */
export const when = (at: number): string =>
  new Date(at).toISOString().slice(0, 16).replace("T", " ");

const STYLE = `
  :root { color-scheme: light dark; --paper: light-dark(#f5f1e8, #1d2126); --sheet: light-dark(#fdfbf6, #262b31); --ink: light-dark(#22262b, #ebe7dd); --soft: light-dark(#5c6066, #aeb2b8); --line: light-dark(#d8d2c4, #3d444c); --accent: light-dark(#0f5a66, #6fc0cb); }
  * { box-sizing: border-box; }
  body { margin: 0; background: var(--paper); color: var(--ink); font: 15px/1.5 system-ui, sans-serif; }
  header { padding: 14px 20px; border-bottom: 1px solid var(--line); display: flex; gap: 16px; align-items: baseline; flex-wrap: wrap; }
  h1 { font-size: 18px; margin: 0; } h2 { font-size: 18px; margin: 0 0 4px; }
  header p { margin: 0; color: var(--soft); flex: 1; }
  main { max-width: 1080px; margin: 0 auto; padding: 20px; }
  a { color: var(--accent); } .soft { color: var(--soft); }
  pre { white-space: pre-wrap; overflow-wrap: anywhere; background: var(--sheet); border: 1px solid var(--line); padding: 16px; font: inherit; }
  form { display: grid; gap: 10px; } label { display: grid; gap: 3px; font-weight: 600; font-size: 13.5px; }
  input, textarea { font: inherit; padding: 6px 8px; border: 1px solid var(--soft); border-radius: 3px; background: var(--sheet); color: inherit; width: 100%; font-weight: 400; }
  button { font: inherit; font-weight: 600; justify-self: start; padding: 5px 16px; border: 0; border-radius: 3px; background: var(--accent); color: var(--paper); cursor: pointer; }
  .told { border-left: 3px solid var(--accent); padding: 6px 12px; background: var(--sheet); }
`;

/** A whole page of a stand-in. */
export const pageOf = ({
  name,
  says,
  ways = "",
  title,
  body,
  told = "",
  style = "",
}: {
  /** What the stand-in is called, and what it is. */
  name: string;
  says: string;
  /** Where else one can go from every page, as HTML. */
  ways?: string;
  title: string;
  /** As HTML. */
  body: string;
  /** What became of what was done last. */
  told?: string;
  style?: string;
}): string =>
  `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title>${text(title)}</title><style>${STYLE}${style}</style>
<header><h1><a href="/" style="color:inherit;text-decoration:none">${text(name)}</a></h1><p>${text(says)}</p>${ways}</header>
<main>${told && `<p class="told" role="status">${text(told)}</p>`}${body}</main></html>`;
