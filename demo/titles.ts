import type { Random } from "@/core/forecast/random";
import type { TitleStock } from "./words/stock";
import { ACCEPTANCE, FINDINGS, PLACES, WHY_STORIES } from "./words/stock";

export type DemoType = "story" | "bug" | "request";

/**
 * Gives out titles: the hand-written ones to the newest items, put-together ones to the others,
 * none twice.
 */
export function titleSource(
  words: TitleStock,
  random: Random,
): (type: DemoType, newest: boolean) => string {
  const used = new Set<string>();
  const written = {
    story: [...words.written.story],
    bug: [...words.written.bug],
    request: [...words.written.request],
  };
  return (type, newest) => {
    const next = newest ? written[type].shift() : undefined;
    if (next) {
      used.add(next);
      return next;
    }
    for (let attempt = 0; ; attempt++) {
      const title = compose(words, type, random);
      if (!used.has(title) || attempt > 40) {
        used.add(title);
        return title;
      }
    }
  };
}

function compose(words: TitleStock, type: DemoType, random: Random): string {
  if (type === "bug")
    return `${random.pick(words.things)} ${random.pick(words.faults)} ${random.pick(words.when)}`;
  if (type === "story") return `${random.pick(words.wishes)} ${random.pick(words.forWhom)}`;
  return `${random.pick(words.asks)} ${random.pick(words.forWhom)}`;
}

/** A description in Markdown that fits the type, and the lines by which a story is accepted. */
export function describe(
  type: DemoType,
  title: string,
  random: Random,
): { description: string; criteria: string[] } {
  if (type === "story") {
    const description = random.pick(WHY_STORIES);
    return { description, criteria: random.pick(ACCEPTANCE).replaceAll(/^- /gm, "").split("\n") };
  }
  return { description: plainDescription(type, title, random), criteria: [] };
}

function plainDescription(type: "bug" | "request", title: string, random: Random): string {
  if (type === "bug")
    return `${title}, seen at ${random.pick(PLACES)}. ${random.pick(FINDINGS)} ${random.pick(FINDINGS)}\n\n### Expected\n\nThe same as on every other sailing.`;
  return `Asked for by the office at ${random.pick(PLACES)}. ${random.pick(WHY_STORIES)}`;
}

export const SUB_TASK_TITLES = [
  ["Sketch it with the crew", "Make the change", "Update the help page"],
  ["Write the test first", "Make the change on the device"],
  ["Change the feed", "Change the app", "Tell the quay office"],
  ["Try it on the oldest phone", "Words in all languages"],
];
