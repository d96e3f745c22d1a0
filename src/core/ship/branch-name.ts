import { z } from "zod";

/** What a pattern of branch names can say of an item and of whoever works on it. */
export const BRANCH_PARTS = ["initials", "key", "number", "type", "title"] as const;
export type BranchPart = (typeof BRANCH_PARTS)[number];

export const FIRST_BRANCH_PATTERN = "{initials}/{key}-{title}";

/** Longer names are cut in their title, at the end of a word. */
export const LONGEST_BRANCH = 80;

export interface NamedForBranch {
  /** The name of whoever begins the branch. */
  person: string;
  /** @example "TIX-606" */
  key: string;
  typeName: string;
  title: string;
}

/** Letters that Unicode does not take apart into a plain letter and a sign. */
const PLAIN: Record<string, string> = {
  ß: "ss",
  ø: "o",
  æ: "ae",
  œ: "oe",
  đ: "d",
  ð: "d",
  ł: "l",
  þ: "th",
};

/** Words as a branch has them: small letters, figures and hyphens. */
const plain = (words: string): string =>
  words
    .toLowerCase()
    .replace(/[ßøæœđðłþ]/g, (letter) => PLAIN[letter])
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .split(/[^a-z0-9]/)
    .filter((word) => word !== "")
    .join("-");

const MOST_INITIALS = 4;
const LONGEST_TYPE = 20;

/** @example initialsOf("Ines Dahl") === "id" */
const initialsOf = (name: string): string =>
  name
    .split(/\s+/)
    .map((word) => plain(word).charAt(0))
    .join("")
    .slice(0, MOST_INITIALS);

const PART = /\{([a-z]+)\}/g;

/** A text without signs that stand at its ends, or twice. */
const withoutGaps = (sign: string) => (text: string) =>
  text
    .split(sign)
    .filter((part) => part !== "")
    .join(sign);

/** No hyphens where a part said nothing, and no empty steps between strokes. */
const tidied = (name: string): string =>
  name
    .split("/")
    .map((step) => step.split(".").map(withoutGaps("-")))
    .map((parts) => withoutGaps(".")(parts.join(".")).replaceAll(".lock", "-lock"))
    .filter((step) => step !== "")
    .join("/");

/**
 * The name of a branch for an item, by a project's pattern.
 * @param pattern text with parts in braces, as `branchPatternSchema` takes it
 * @returns a name that git takes, of at most `LONGEST_BRANCH` characters
 * @example branchName("{initials}/{key}-{title}", { person: "Ines Dahl", key: "TIX-606",
 *   typeName: "Story", title: "Tickets offline" }) === "id/tix-606-tickets-offline"
 */
export function branchName(pattern: string, of: NamedForBranch): string {
  const filled = (title: string): string => {
    const parts: Record<BranchPart, string> = {
      initials: initialsOf(of.person),
      key: of.key.toLowerCase(),
      number: of.key.slice(of.key.lastIndexOf("-") + 1),
      type: plain(of.typeName).slice(0, LONGEST_TYPE),
      title,
    };
    return tidied(pattern.replace(PART, (whole, part: BranchPart) => parts[part] ?? whole));
  };
  const words = plain(of.title).split("-");
  let name = filled(words.join("-"));
  while (name.length > LONGEST_BRANCH && words.length > 1) {
    words.pop();
    name = filled(words.join("-"));
  }
  if (name.length <= LONGEST_BRANCH) return name;
  // One word that is longer than a name may be.
  const over = name.length - LONGEST_BRANCH;
  return filled(words[0].slice(0, Math.max(0, words[0].length - over)));
}

/**
 * The first of a name, the name with -2, with -3 and so on that no branch has yet.
 * @param taken names of branches that there are, or were
 */
export function freeBranchName(name: string, taken: Iterable<string | null>): string {
  const names = new Set(taken);
  if (!names.has(name)) return name;
  for (let n = 2; ; n++) {
    const tail = `-${n}`;
    const next = `${name.slice(0, LONGEST_BRANCH - tail.length)}${tail}`;
    if (!names.has(next)) return next;
  }
}

/**
 * Whether git takes a text as the name of a branch.
 * Source: git-check-ref-format(1), rules 1 to 9 for names below `refs/heads/`.
 */
export function isBranchName(name: string): boolean {
  if (name === "" || name === "HEAD" || name.startsWith("-")) return false;
  if (/[\u0000-\u0020\u007f~^:?*[\\]|\.\.|@\{|\/\/|^\/|\/$|\.$/.test(name)) return false;
  return name.split("/").every((step) => !step.startsWith(".") && !step.endsWith(".lock"));
}

const SAMPLE: NamedForBranch = {
  person: "Ab Cd",
  key: "AB-1",
  typeName: "Story",
  title: "words of it",
};

const PARTS_NAMED = BRANCH_PARTS.map((part) => `{${part}}`).join(", ");

/** A project's pattern of branch names: with the key in it, by which a branch is found again. */
export const branchPatternSchema = z
  .string()
  .trim()
  .min(1, "Say how branches are named.")
  .max(60, "A pattern has 60 characters at most.")
  .superRefine((pattern, context) => {
    const say = (message: string) => context.addIssue({ code: "custom", message });
    const unknown = [...pattern.matchAll(PART)].find(
      ([, part]) => !(BRANCH_PARTS as readonly string[]).includes(part),
    );
    if (unknown) say(`${unknown[0]} says nothing here. There are ${PARTS_NAMED}.`);
    else if (!pattern.includes("{key}"))
      say("A branch is found again by the key in its name: put {key} into the pattern.");
    else if (!isBranchName(branchName(pattern, SAMPLE)))
      say("Git takes no branch of such a name: leave out spaces and the signs ~ ^ : ? * [ \\.");
  });
