import { z } from "zod";
import { LIMIT_MODES, type LimitMode } from "../requirement";
import { requirementKind } from "./kind";

const WORDS: Record<LimitMode, { mode: string; whole: string }> = {
  ignore: { mode: "goes past it", whole: "goes past the limits ahead" },
  warn: { mode: "warns", whole: "warns when a limit ahead is full" },
  ask: { mode: "asks why", whole: "asks why when a limit ahead is full" },
  refuse: { mode: "stops", whole: "stops when a limit ahead is full" },
};

/** Whether it holds is decided with the limits themselves, which are counted under a lock. */
export const limitAhead = requirementKind({
  title: "the limit ahead is kept",
  refused: "the limit was full",
  parameters: { mode: z.enum(LIMIT_MODES) },
  begins: { mode: "refuse" },
  editors: {
    mode: {
      kind: "choice",
      label: "When the limit ahead is full",
      options: () => LIMIT_MODES.map((m) => ({ value: m, label: WORDS[m].mode })),
    },
  },
  words: ({ mode }) => WORDS[mode].whole,
  unmet: () => null,
});
