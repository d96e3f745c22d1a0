import type { KeptMail } from "./kept-mail";

const ENTITIES: Record<string, string> = {
  "&": "&amp;",
  "<": "&lt;",
  ">": "&gt;",
  '"': "&quot;",
  "'": "&#39;",
};
const text = (words: string) => words.replace(/[&<>"']/g, (c) => ENTITIES[c]);
/** Links to pages of the product on this machine can be followed; nothing else becomes a link. */
const linked = (words: string) =>
  text(words).replace(
    /\bhttps?:\/\/(?:localhost|127\.0\.0\.1)(?::\d+)?\/[\w/.-]*/g,
    (url) => `<a href="${url}" rel="noreferrer">${url}</a>`,
  );
const when = (at: number) => new Date(at).toISOString().slice(0, 16).replace("T", " ");

const STYLE = `
  :root { color-scheme: light dark; --paper: light-dark(#f5f1e8, #1d2126); --sheet: light-dark(#fdfbf6, #262b31); --ink: light-dark(#22262b, #ebe7dd); --soft: light-dark(#5c6066, #aeb2b8); --line: light-dark(#d8d2c4, #3d444c); --accent: light-dark(#0f5a66, #6fc0cb); }
  * { box-sizing: border-box; }
  body { margin: 0; background: var(--paper); color: var(--ink); font: 15px/1.5 system-ui, sans-serif; }
  header { padding: 14px 20px; border-bottom: 1px solid var(--line); display: flex; gap: 16px; align-items: baseline; flex-wrap: wrap; }
  h1 { font-size: 18px; margin: 0; } h2 { font-size: 18px; margin: 0 0 4px; }
  header p { margin: 0; color: var(--soft); flex: 1; }
  main { max-width: 1080px; margin: 0 auto; padding: 20px; }
  a { color: var(--accent); } .soft { color: var(--soft); }
  ol { list-style: none; margin: 0; padding: 0; } li { border-bottom: 1px solid var(--line); }
  li a { display: grid; grid-template-columns: 290px 1fr 150px; gap: 14px; padding: 8px 4px; text-decoration: none; color: inherit; }
  li a:hover { background: var(--sheet); } li b, li span { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  pre { white-space: pre-wrap; overflow-wrap: anywhere; background: var(--sheet); border: 1px solid var(--line); padding: 16px; font: inherit; }
  form { display: grid; gap: 10px; } label { display: grid; gap: 3px; font-weight: 600; font-size: 13.5px; }
  input, textarea { font: inherit; padding: 6px 8px; border: 1px solid var(--soft); border-radius: 3px; background: var(--sheet); color: inherit; width: 100%; font-weight: 400; }
  button { font: inherit; font-weight: 600; justify-self: start; padding: 5px 16px; border: 0; border-radius: 3px; background: var(--accent); color: var(--paper); cursor: pointer; }
  .told { border-left: 3px solid var(--accent); padding: 6px 12px; background: var(--sheet); }
  @media (max-width: 640px) { li a { grid-template-columns: 1fr; gap: 0; } }
`;

const page = (
  title: string,
  body: string,
  told = "",
) => `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title>${text(title)}</title><style>${STYLE}</style>
<header><h1><a href="/" style="color:inherit;text-decoration:none">Mailbox of the quay</a></h1><p>Stands in for the mail of people without an account. Nothing leaves this machine.</p><a href="/write">Write a mail</a></header>
<main>${told && `<p class="told" role="status">${text(told)}</p>`}${body}</main></html>`;

export function listPage(mails: readonly KeptMail[], told = ""): string {
  const rows = mails.map(
    (m) =>
      `<li><a href="/mail/${m.id}"><b>${text(m.to)}</b><span>${text(m.subject)}</span><span class="soft">${when(m.at)}</span></a></li>`,
  );
  return page(
    "Mailbox",
    rows.length > 0
      ? `<ol>${rows.join("")}</ol>`
      : `<p class="soft">No mail yet. What the product writes to requesters appears here.</p>`,
    told,
  );
}

export interface Draft {
  from: string;
  to: string;
  subject: string;
  text: string;
  /** The mail that is answered. */
  answers?: number;
}

function form(draft: Draft, button: string): string {
  const field = (name: keyof Draft, label: string, type: string) =>
    `<label>${label}<input name="${name}" type="${type}" required maxlength="300" value="${text(String(draft[name] ?? ""))}"></label>`;
  return `<form method="post" action="/write" enctype="multipart/form-data">${draft.answers ? `<input type="hidden" name="answers" value="${draft.answers}">` : ""}${field("from", "From", "email")}${field("to", "To", "email")}${field("subject", "Subject", "text")}<label>Text<textarea name="text" rows="8" required>${text(draft.text)}</textarea></label><label>A file<input type="file" name="file"></label><button>${button}</button></form>`;
}

export function mailPage(mail: KeptMail): string {
  const quoted = `\n\nOn ${when(mail.at)}, ${mail.from} wrote:\n${mail.text
    .split("\n")
    .map((l) => `> ${l}`)
    .join("\n")}`;
  return page(
    mail.subject,
    `<h2>${text(mail.subject)}</h2><p class="soft">from ${text(mail.from)} to ${text(mail.to)}, ${when(mail.at)}</p><pre>${linked(mail.text)}</pre><h2>Answer</h2>${form({ from: mail.to, to: mail.answerTo, subject: `Re: ${mail.subject}`, text: quoted, answers: mail.id }, "Send the answer")}`,
  );
}

export function writePage(draft: Draft, told = ""): string {
  return page("Write a mail", `<h2>Write a mail</h2>${form(draft, "Send it")}`, told);
}
