import type { LimitState } from "@/core/board/limit";

const TONES: Partial<Record<LimitState["kind"], string>> = {
  over: "font-semibold text-alarm",
  under: "font-semibold text-signal-ink",
};

/** How the words of a limit are written: what is broken stands out. */
export const limitTone = ({ kind }: LimitState): string => TONES[kind] ?? "text-ink-soft";
