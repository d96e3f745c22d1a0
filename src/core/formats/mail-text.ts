import { cutText, shorten } from "./cut-text";
import { withoutQuote } from "./mail-quote";

/*
 * What mails say, and who or what wrote them. Auto-Submitted is RFC 3834, section 5; delivery
 * reports are RFC 3464.
 */

/**
 * So much of a mail is looked at for what its sender wrote; the rest of a longer one is kept, and
 * said to be.
 */
export const MOST_READ = 200_000;
/** So much of it stands in a report or an answer. */
export const MOST_WORDS = 10_000;

/** What a person wrote in a mail. */
export interface OwnWords {
  text: string;
  /** There was more than can stand in a report: the mail itself has to be kept with it. */
  cut: boolean;
}

/** Their own words, without quote and signature, cut to what a report holds and saying so. */
export function ownWords(whole: string): OwnWords {
  const own = withoutQuote(cutText(whole, MOST_READ));
  if (own.length <= MOST_WORDS && whole.length <= MOST_READ) return { text: own, cut: false };
  const note = "\n\n(The mail goes on. As it came it is with the files.)";
  return { text: `${cutText(own, MOST_WORDS - note.length)}${note}`, cut: true };
}

/** Headers of a mail by their names in small letters; repeated ones keep each value. */
export type MailHeaders = Readonly<Record<string, readonly string[] | undefined>>;

/** Who or what wrote a mail. */
export type MailWriter = "person" | "bounce" | "automatic" | "loop";

/** More servers than this pass a mail on only when it goes in a circle. */
const MOST_HOPS = 30;

/** The header by which our own mails are known when they come back. */
export const OWN_MAIL_HEADER = "x-zigzag-lane";

/**
 * Tells mails of people from those of machines.
 * @param returnPath where the envelope says that failures go; empty for mails that must never be
 *   answered (RFC 5321, 4.5.5)
 */
export function writerOf(headers: MailHeaders, returnPath: string | null): MailWriter {
  const has = (name: string, test: RegExp) => (headers[name] ?? []).some((v) => test.test(v));
  const type = headers["content-type"]?.[0] ?? "";
  if (/multipart\/report/i.test(type) && /delivery-status/i.test(type)) return "bounce";
  if (
    has("from", /\b(?:mailer-daemon|postmaster)@/i) &&
    (returnPath === "" || has("auto-submitted", /./))
  )
    return "bounce";
  if (headers[OWN_MAIL_HEADER]?.length || (headers.received?.length ?? 0) > MOST_HOPS)
    return "loop";
  if (has("auto-submitted", /^\s*auto-/i) || has("precedence", /bulk|junk|list|auto.reply/i))
    return "automatic";
  if (
    headers["x-autoreply"]?.length ||
    headers["x-autorespond"]?.length ||
    headers["list-id"]?.length
  )
    return "automatic";
  return returnPath === "" ? "bounce" : "person";
}

/** The mails that a mail answers, the nearest first (RFC 5322, section 3.6.4). */
export function answered(headers: MailHeaders): string[] {
  const ids = (name: string) =>
    (headers[name] ?? []).flatMap((v) => v.match(/<[^<>\s]{1,250}>/g) ?? []);
  return [...new Set([...ids("in-reply-to").reverse(), ...ids("references").reverse()])];
}

/** What programs put before a subject that is answered or passed on. */
const PREFIX = /^(?:re|aw|sv|fwd?|wg|antw)(?:\[\d{1,4}\])?$/i;

/** A subject as the title of a report: without what programs put before it. */
export function titleOf(subject: string, text: string): string {
  let bare = cutText(subject, 1_000).replace(/\s+/g, " ").trim();
  for (
    let colon = bare.indexOf(":");
    colon > 0 && PREFIX.test(bare.slice(0, colon).trim());
    colon = bare.indexOf(":")
  )
    bare = bare.slice(colon + 1).trim();
  const first =
    cutText(text, 2_000)
      .split("\n")
      .find((line) => line.trim())
      ?.trim() ?? "";
  return shorten(bare || first || "A mail without words", 200);
}

/**
 * Headers of a mail that nothing else could read: up to the first blank line, folded ones joined
 * (RFC 5322, section 2.2).
 */
export function plainHeaders(raw: string): MailHeaders {
  const headers: Record<string, string[]> = Object.create(null);
  const lines = cutText(raw, 64 * 1024).split(/\r?\n/);
  const end = lines.indexOf("");
  let last: string[] | null = null;
  for (const line of end < 0 ? lines : lines.slice(0, end)) {
    if (/^[ \t]/.test(line)) {
      if (last) last[last.length - 1] = cutText(`${last.at(-1)} ${line.trim()}`, 2_000);
      continue;
    }
    const colon = line.indexOf(":");
    const name = colon > 0 && colon < 80 ? line.slice(0, colon).trim().toLowerCase() : "";
    last = name === "" ? null : (headers[name] ??= []);
    last?.push(cutText(line.slice(colon + 1).trim(), 2_000));
  }
  return headers;
}

/** What came along with a mail and was not taken, in words for whoever reads the report. */
export function notTaken(files: readonly { name: string; why: string }[]): string {
  if (files.length === 0) return "";
  const lines = files.slice(0, 20).map(({ name, why }) => `- ${name}: ${why}`);
  if (files.length > 20) lines.push(`- and ${files.length - 20} more`);
  return `Came with this mail and was not taken:\n${lines.join("\n")}`;
}
