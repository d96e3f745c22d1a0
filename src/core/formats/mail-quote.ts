/*
 * What people add to what they say in mails: the quoted text of the mail they answer, and
 * signatures. The form of quotes is a habit of mail programs, not a rule: common practice, no
 * source. The signature line "-- " is RFC 3676, section 4.3.
 *
 * One pass over the lines, from the end for what follows a line and from the front for where to
 * cut; only short lines are looked at closely, because no program writes long ones there.
 */

const SIGNATURE = /^-- ?$/;
const LONGEST_ATTRIBUTION = 320;
const ORIGINAL_WORDS = new Set([
  "original message",
  "forwarded message",
  "ursprüngliche nachricht",
  "weitergeleitete nachricht",
  "message d'origine",
  "oorspronkelijk bericht",
]);

/** How the line that names a quoted mail begins and ends, in the languages that are understood. */
const ATTRIBUTIONS: readonly { begins: string; says: string }[] = [
  { begins: "on ", says: " wrote" },
  { begins: "am ", says: " schrieb" },
  { begins: "le ", says: " a écrit" },
  { begins: "op ", says: " schreef" },
];

const HEADER_NAMES = {
  from: new Set(["from", "von", "de", "van"]),
  when: new Set(["sent", "date", "gesendet", "datum", "envoyé", "verzonden"]),
  about: new Set(["subject", "betreff", "objet", "onderwerp"]),
  other: new Set(["to", "cc", "an", "kopie", "à", "aan", "reply-to", "antwort an", "importance"]),
};
/** A block of headers has so many lines at most. */
const LONGEST_BLOCK = 8;

/**
 * What a person wrote themselves: without the quoted mail below it, and without their signature.
 * Where nothing would be left, the whole text: better too much than a lost word. Answers between
 * quoted lines keep those lines.
 */
export function withoutQuote(text: string): string {
  const lines = text.replaceAll("\r\n", "\n").replaceAll("\u00a0", " ").split("\n");
  const own = lines.slice(0, cutAt(lines));
  while (own.length > 0 && (own.at(-1)!.trim() === "" || own.at(-1)!.startsWith(">"))) own.pop();
  return own.join("\n").trim() || text.trim();
}

/** What stands from a line on to the end. */
interface Below {
  /** The first line with words is quoted, or there is none. */
  beginsQuoted: boolean;
  someQuoted: boolean;
  /** Nothing but quoted lines, blank ones and signature marks. */
  onlyQuoted: boolean;
}

function lookBelow(lines: readonly string[]): Below[] {
  const below: Below[] = Array(lines.length + 2).fill({
    beginsQuoted: true,
    someQuoted: false,
    onlyQuoted: true,
  });
  for (let i = lines.length - 1; i >= 0; i--) {
    const next = below[i + 1];
    const quoted = lines[i].startsWith(">");
    const blank = lines[i].trim() === "";
    below[i] = {
      beginsQuoted: blank ? next.beginsQuoted : quoted,
      someQuoted: quoted || next.someQuoted,
      onlyQuoted: next.onlyQuoted && (quoted || blank || SIGNATURE.test(lines[i])),
    };
  }
  return below;
}

function cutAt(lines: readonly string[]): number {
  const below = lookBelow(lines);
  for (let i = 0; i < lines.length; i++) {
    if (SIGNATURE.test(lines[i])) return i;
    if (lines[i].length > LONGEST_ATTRIBUTION) continue;
    const line = lines[i].trim();
    if (saysOriginal(line) || beginsHeaderBlock(lines, i)) return i;
    const following = lines[i + 1]?.length <= LONGEST_ATTRIBUTION ? lines[i + 1].trim() : "";
    if (attributes(line, below[i + 1])) return i;
    if (following !== "" && attributes(`${line} ${following}`, below[i + 2])) return i;
  }
  return lines.length;
}

/**
 * Whether a line says who wrote the mail that stands below it. Without quote marks below, a day or
 * an address must be in it.
 */
function attributes(line: string, { beginsQuoted, someQuoted, onlyQuoted }: Below): boolean {
  const named = namesWriter(line);
  if (!named) return false;
  return someQuoted ? beginsQuoted && onlyQuoted : named === "exactly";
}

function namesWriter(line: string): "exactly" | "loosely" | null {
  if (line.length < 8 || line.length > LONGEST_ATTRIBUTION || !line.endsWith(":")) return null;
  const small = line.toLowerCase();
  const hasAddress = hasMailAddress(line);
  const says = ATTRIBUTIONS.some((a) => small.startsWith(a.begins) && small.includes(a.says));
  if (says) return hasAddress || /\d{1,2}\D+\d{1,2}/.test(line) ? "exactly" : "loosely";
  return hasAddress && line.length <= 200 ? "exactly" : null;
}

/** Whether there is something like <somebody@somewhere> in a line. */
function hasMailAddress(line: string): boolean {
  const at = line.indexOf("@");
  const open = line.lastIndexOf("<", at);
  const close = line.indexOf(">", at);
  return (
    at > 0 && open >= 0 && open < at - 1 && close > at + 1 && !/\s/.test(line.slice(open, close))
  );
}

/** "----- Original Message -----" */
function saysOriginal(line: string): boolean {
  if (!line.startsWith("--") || !line.endsWith("--")) return false;
  return ORIGINAL_WORDS.has(line.replaceAll("-", "").trim().toLowerCase());
}

/**
 * Whether the headers of a mail are written out from this line on: who, when and what about, close
 * together.
 */
function beginsHeaderBlock(lines: readonly string[], start: number): boolean {
  if (!HEADER_NAMES.from.has(headerName(lines[start]) ?? "")) return false;
  let when = false;
  let about = false;
  for (const line of lines.slice(start + 1, start + LONGEST_BLOCK)) {
    const name = headerName(line);
    if (name === null) break;
    when ||= HEADER_NAMES.when.has(name);
    about ||= HEADER_NAMES.about.has(name);
    if (
      !HEADER_NAMES.when.has(name) &&
      !HEADER_NAMES.about.has(name) &&
      !HEADER_NAMES.other.has(name)
    )
      break;
  }
  return when && about;
}

/** The name before the colon, as "*From:* quay 4" has it too. */
function headerName(line: string): string | null {
  const start = line.slice(0, 24).replaceAll("*", "").trimStart();
  const colon = start.indexOf(":");
  return colon > 0 ? start.slice(0, colon).trim().toLowerCase() : null;
}
