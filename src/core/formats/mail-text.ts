/*
 * What people add to what they say in mails: quoted text of the mail they answer, signatures; and what machines send.
 * The form of quotes is a habit of mail programs, not a rule: common practice, no source. The signature line "-- " is RFC 3676,
 * section 4.3; Auto-Submitted is RFC 3834, section 5; delivery reports are RFC 3464.
 */

const SIGNATURE = /^-- ?$/;
/** "On 3 May Anna wrote:" and the like, on one line or broken over two. */
const ATTRIBUTION = /^(on\b.{4,200}\bwrote|am\b.{4,200}\bschrieb\b.{0,80}|le\b.{4,200}\ba écrit|op\b.{4,200}\bschreef\b.{0,80}|.{1,120}<[^<>\s]+@[^<>\s]+>.{0,60})\s*:$/i;
const ORIGINAL = /^-{2,}\s*(original message|forwarded message|ursprüngliche nachricht)\s*-{2,}$/i;
const HEADER_BLOCK = /^(from|von|de):\s.+$/i;
const HEADER_NEXT = /^(sent|date|to|gesendet|an|envoyé|à|subject|betreff|objet):\s/i;

/**
 * What a person wrote themselves: without the quoted mail below it, and without their signature. Where nothing would be
 * left, the whole text: better too much than a lost word. Answers between quoted lines keep those lines.
 */
export function withoutQuote(text: string): string {
  const lines = text.replaceAll("\r\n", "\n").replaceAll("\u00a0", " ").split("\n");
  const end = cutAt(lines);
  const own = lines.slice(0, end);
  while (own.length > 0 && (own.at(-1)!.trim() === "" || own.at(-1)!.startsWith(">"))) own.pop();
  const kept = own.join("\n").trim();
  return kept || text.trim();
}

function cutAt(lines: readonly string[]): number {
  for (let i = 0; i < lines.length; i++) {
    const line = lines[i].trim();
    if (SIGNATURE.test(lines[i]) || ORIGINAL.test(line)) return i;
    if (HEADER_BLOCK.test(line) && HEADER_NEXT.test(lines[i + 1]?.trim() ?? "")) return i;
    const quoteFollows = (from: number) => (lines.slice(from).find((l) => l.trim() !== "") ?? ">").startsWith(">");
    const onlyQuoteFollows = (from: number) => quoteFollows(from) && lines.slice(from).every((l) => l.trim() === "" || l.startsWith(">") || SIGNATURE.test(l));
    if (ATTRIBUTION.test(line) && (onlyQuoteFollows(i + 1) || !lines.slice(i + 1).some((l) => l.startsWith(">")))) return i;
    const two = `${line} ${lines[i + 1]?.trim() ?? ""}`;
    if (/^(on|am|le|op)\b/i.test(line) && ATTRIBUTION.test(two) && (onlyQuoteFollows(i + 2) || !lines.slice(i + 2).some((l) => l.startsWith(">")))) return i;
  }
  return lines.length;
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
 * @param returnPath where the envelope says that failures go; empty for mails that must never be answered (RFC 5321, 4.5.5)
 */
export function writerOf(headers: MailHeaders, returnPath: string | null): MailWriter {
  const has = (name: string, test: RegExp) => (headers[name] ?? []).some((v) => test.test(v));
  const type = headers["content-type"]?.[0] ?? "";
  if (/multipart\/report/i.test(type) && /delivery-status/i.test(type)) return "bounce";
  if (has("from", /\b(mailer-daemon|postmaster)@/i) && (returnPath === "" || has("auto-submitted", /./))) return "bounce";
  if (headers[OWN_MAIL_HEADER]?.length || (headers.received?.length ?? 0) > MOST_HOPS) return "loop";
  if (has("auto-submitted", /^\s*auto-/i) || has("precedence", /bulk|junk|list|auto.reply/i) || headers["x-autoreply"]?.length || headers["x-autorespond"]?.length || headers["list-id"]?.length) return "automatic";
  return returnPath === "" ? "bounce" : "person";
}

/** The mails that a mail answers, the nearest first (RFC 5322, section 3.6.4). */
export function answered(headers: MailHeaders): string[] {
  const ids = (name: string) => (headers[name] ?? []).flatMap((v) => v.match(/<[^<>\s]{1,250}>/g) ?? []);
  return [...new Set([...ids("in-reply-to").reverse(), ...ids("references").reverse()])];
}

/** A subject as the title of a report: without what programs put before it. */
export function titleOf(subject: string, text: string): string {
  const bare = subject.replace(/^(\s*(re|aw|sv|fwd?|wg|antw)(\[\d+\])?\s*:\s*)+/i, "").replace(/\s+/g, " ").trim();
  const first = text.split("\n").find((line) => line.trim())?.trim() ?? "";
  const title = bare || first || "A mail without words";
  return title.length > 200 ? `${title.slice(0, 199)}…` : title;
}
