import { cutText } from "@/core/formats/cut-text";

/**
 * How people outside tell of a hole in security without knowing the word: that they saw or changed
 * what is somebody else's, came in without being asked who they are, or could make a page run what
 * they typed (the first, third and seventh of the OWASP Top Ten of 2021: broken access control,
 * injection, failures of identification), or that something secret lies open.
 */

const MOST_READ = 4_000;

const SEES =
  "(?:see|sees|saw|seen|open|opens|opened|read|view|viewed|change|changed|edit|edited|cancel|cancelled|download|downloaded|shows?|showed|shown|get|got|access|accessed|find|found|use|used)";
const THINGS =
  "(?:tickets?|bookings?|names?|address(?:es)?|data|details|accounts?|cards?|mails?|messages?|receipts?|profiles?|passwords?|phone numbers?|lists?|reports?)";
const OTHERS =
  "(?:other|others|another|different|strange|foreign) (?:people|persons?|passengers?|customers?|users?|families|family|man|woman)";
const SOMEBODY = "(?:someone|somebody|anyone|anybody)(?: else)?[\u2019']?s?|strangers?[\u2019']?s?";
/** A few words between two parts of a phrase, within one sentence. */
const GAP = "(?:[^.!?\n]{0,60}?)";

const PHRASES: readonly RegExp[] = [
  new RegExp(`\\b${SEES}\\b${GAP}\\b${THINGS} (?:of|from) (?:${OTHERS}|${SOMEBODY}|others)\\b`),
  new RegExp(`\\b${SEES}\\b${GAP}\\b(?:${OTHERS})[\u2019']?s? ${THINGS}\\b`),
  new RegExp(`\\b${SEES}\\b${GAP}\\b(?:someone|somebody) else[\u2019']?s ${THINGS}\\b`),
  new RegExp(`\\b${SEES}\\b${GAP}\\b(?:a )?strangers?[\u2019']s? ${THINGS}\\b`),
  /\bwithout (?:a |any |my |the )?(?:password|signing in|being signed in|logging in)\b/,
  /\bpasswords?\b[^.!?\n]{0,40}\b(?:visible|shown|plain text|leak(?:ed|s)?|in the (?:address|link|url))\b/,
  /\b(?:vulnerab\w+|exploit\w*|security (?:hole|flaw|issue|problem)|hacked|hackers?|data (?:leak|breach)|leak(?:s|ed|ing)? (?:data|names|addresses|passwords?)|sql injection|cross.site|xss|csrf)\b/,
  /<script\b|javascript:|['"] ?or ?['"]?1['"]? ?= ?['"]?1/,
  /\b(?:changing|changed|change|counting up|guess(?:ing|ed)?) the (?:number|id|code) in the (?:address|link|url)\b/,
];

/**
 * The words by which a text sounds like a hole in security, as they stand in it; null where it does
 * not. It is a reason to look twice and to tell few, never a verdict.
 */
export function soundsLikeHole(text: string): string | null {
  const read = cutText(text, MOST_READ);
  const small = read.toLowerCase();
  // Where small letters are of another length than large ones, the words are shown small.
  const shown = small.length === read.length ? read : small;
  for (const phrase of PHRASES) {
    const found = phrase.exec(small);
    if (found) return shown.slice(found.index, found.index + found[0].length);
  }
  return null;
}

/** What a report says, as it is read for that. */
export const textOfReport = ({ title, happened }: { title: string; happened: string }): string =>
  `${title}.\n${happened}`;
