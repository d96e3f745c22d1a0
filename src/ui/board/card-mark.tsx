import { Anchor, Bell, Flag, LifeBuoy, Sailboat, Waves, type LucideIcon } from "lucide-react";
import type { CardMark, Sign, Tone } from "@/core/board/card-look";

export const SIGN_ICONS: Record<Sign, LucideIcon> = {
  anchor: Anchor,
  bell: Bell,
  buoy: LifeBuoy,
  flag: Flag,
  sail: Sailboat,
  waves: Waves,
};

const TONE_CLASS: Record<Tone, string> = {
  "look here": "text-signal-ink",
  "act now": "text-alarm",
  good: "text-accent",
  rest: "text-rest-ink",
};

/** The mark of a card: its sign and its word; the colour comes third. */
export function MarkLine({ mark, compact }: { mark: CardMark; compact: boolean }) {
  const Icon = SIGN_ICONS[mark.sign];
  return (
    <p
      className={`flex items-center gap-1 font-semibold ${TONE_CLASS[mark.tone]} ${compact ? "text-[11.5px]" : "mt-0.5 text-[12.5px]"}`}
      data-mark={mark.word}
    >
      <Icon size={compact ? 11 : 13} className="shrink-0" aria-hidden="true" />
      <span className="truncate">{mark.word}</span>
    </p>
  );
}
