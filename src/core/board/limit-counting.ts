export const LIMIT_UNITS = ["items", "size"] as const;

/** How a limit counts. */
export interface LimitCounting {
  /** Items, or what their sizes come to. */
  unit: (typeof LIMIT_UNITS)[number];
  /** Of which level items count; null: of the usual one of where it is. */
  level: number | null;
  /** Whether items with a fixed date, and a day that it is due, may go beyond it. */
  fixedDatePasses: boolean;
  /** Of a person's: only what is worked on, not what waits in their hands. */
  workedOnly: boolean;
}

export const PLAIN_COUNTING: LimitCounting = {
  unit: "items",
  level: null,
  fixedDatePasses: false,
  workedOnly: false,
};

/** How a limit counts, without the rest of it. */
export const countingOf = ({
  unit,
  level,
  fixedDatePasses,
  workedOnly,
}: LimitCounting): LimitCounting => ({ unit, level, fixedDatePasses, workedOnly });

/** How a limit counts where it says more than a plain one, in words: "only of level 2". */
export const countingSentence = ({
  level,
  fixedDatePasses,
  workedOnly,
}: Partial<LimitCounting>): string[] => [
  ...(level == null ? [] : [`only of level ${level}`]),
  ...(workedOnly ? ["only what is worked on"] : []),
  ...(fixedDatePasses ? ["fixed dates may pass"] : []),
];
