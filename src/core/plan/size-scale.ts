import { z } from "zod";

/** In what sizes are said. */
export const SCALE_KINDS = ["points", "letters", "hours"] as const;
export type ScaleKind = (typeof SCALE_KINDS)[number];

/** A size that can be chosen, with what it is called. */
export interface SizeStep {
  name: string;
  size: number;
}

/** The sizes that a project chooses from, the smallest first. */
export interface SizeScale {
  kind: ScaleKind;
  steps: SizeStep[];
}

/** So many steps are enough to tell things apart. */
const MOST_STEPS = 16;
const LARGEST = 1_000;

const plain = (kind: ScaleKind, sizes: readonly number[]): SizeScale => ({
  kind,
  steps: sizes.map((size) => ({ name: String(size), size })),
});

/** What each kind begins with. */
export const FIRST_SCALES: Readonly<Record<ScaleKind, SizeScale>> = {
  points: plain("points", [0, 1, 2, 3, 5, 8, 13, 20]),
  letters: {
    kind: "letters",
    steps: [
      { name: "S", size: 1 },
      { name: "M", size: 3 },
      { name: "L", size: 8 },
      { name: "XL", size: 20 },
    ],
  },
  hours: plain("hours", [1, 2, 4, 8, 16, 24, 40]),
};

export const sizeScaleSchema = z
  .object({
    kind: z.enum(SCALE_KINDS),
    steps: z
      .array(
        z.object({
          name: z.string().trim().min(1, "A size needs a name.").max(12, "Use short names."),
          size: z.number().min(0, "A size is not less than nothing.").max(LARGEST),
        }),
      )
      .min(2, "A scale has two sizes at least.")
      .max(MOST_STEPS, `A scale has ${MOST_STEPS} sizes at most.`),
  })
  .superRefine(({ steps }, context) => {
    const complain = (message: string) => context.addIssue({ code: "custom", message });
    if (new Set(steps.map(({ name }) => name.toLowerCase())).size < steps.length)
      complain("Two sizes have the same name.");
    if (steps.some(({ size }, i) => i > 0 && size <= steps[i - 1].size))
      complain("Each size is larger than the one before it.");
  });

/**
 * The steps that somebody wrote: numbers, or with letters a name and the number behind it.
 * @returns null where it cannot be read
 * @example readSteps("S=1, M=3", "letters") // [{ name: "S", size: 1 }, { name: "M", size: 3 }]
 */
export function readSteps(text: string, kind: ScaleKind): SizeStep[] | null {
  const parts = text.split(/[\s,;]+/).filter((part) => part !== "");
  const steps = parts.map((part): SizeStep | null => {
    const [, name, number] = /^(?:([^=]+)=)?(\d+(?:\.\d+)?)$/.exec(part) ?? [];
    if (number === undefined || (kind === "letters") !== (name !== undefined)) return null;
    return { name: name ?? String(Number(number)), size: Number(number) };
  });
  return steps.every((step) => step !== null) ? (steps as SizeStep[]) : null;
}

/** The steps as they are written. */
export const stepsAsText = ({ kind, steps }: SizeScale): string =>
  steps.map(({ name, size }) => (kind === "letters" ? `${name}=${size}` : name)).join(" ");

/** A size as the project says it: "M", "5", "4 h"; what is not on the scale as its number. */
export function sizeWords(size: number, { kind, steps }: SizeScale): string {
  if (kind === "hours") return `${size} h`;
  return steps.find((step) => step.size === size)?.name ?? String(size);
}

/**
 * The size that somebody typed: the name of a step, else a number, on the scale or not.
 * @returns null where it is neither
 */
export function readSize(text: string, { steps }: SizeScale): number | null {
  const typed = text.trim().toLowerCase();
  const named = steps.find(({ name }) => name.toLowerCase() === typed);
  if (named) return named.size;
  const number = /^\d+(?:[.,]\d+)?$/.test(typed) ? Number(typed.replace(",", ".")) : NaN;
  return number <= LARGEST ? number : null;
}
