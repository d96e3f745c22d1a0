import { Check, CircleDashed, Contrast, X } from "lucide-react";
import type { Answered } from "@/core/ship/acceptance/answer";

const MARKS = {
  waits: CircleDashed,
  accepted: Check,
  missing: X,
  "changed since": Contrast,
} as const;

/** The shape of how it stands with somebody; the words stand beside it. */
export function AnsweredMark({ of }: { of: Answered }) {
  const Icon = MARKS[of];
  return <Icon size={14} aria-hidden="true" className="answered-mark" data-answered={of} />;
}
