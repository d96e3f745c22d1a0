import { pageOf, text, when } from "../page";
import type { KeptMail } from "./kept-mail";

/** Links to pages of the product on this machine can be followed; nothing else becomes a link. */
const linked = (words: string) =>
  text(words).replace(
    /\bhttps?:\/\/(?:localhost|127\.0\.0\.1)(?::\d+)?\/[\w/.-]*/g,
    (url) => `<a href="${url}" rel="noreferrer">${url}</a>`,
  );

const STYLE = `
  ol { list-style: none; margin: 0; padding: 0; } li { border-bottom: 1px solid var(--line); }
  li a { display: grid; grid-template-columns: 290px 1fr 150px; gap: 14px; padding: 8px 4px; text-decoration: none; color: inherit; }
  li a:hover { background: var(--sheet); } li b, li span { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  @media (max-width: 640px) { li a { grid-template-columns: 1fr; gap: 0; } }
`;

const page = (title: string, body: string, told = "") =>
  pageOf({
    name: "Mailbox of the quay",
    says: "Stands in for the mail of people without an account. Nothing leaves this machine.",
    ways: `<a href="/write">Write a mail</a>`,
    style: STYLE,
    ...{ title, body, told },
  });

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
