import { CircleDot, MessageSquare, Square, SquareCheck, TriangleAlert } from "lucide-react";

const GLYPHS = { bug: TriangleAlert, story: CircleDot, request: MessageSquare, task: SquareCheck };

/** The sign of an item type, with its name for those who do not see it. */
export function TypeGlyph({ typeId, name, size = 14 }: { typeId: string; name?: string; size?: number }) {
  const Glyph = GLYPHS[typeId as keyof typeof GLYPHS] ?? Square;
  return (
    <span role="img" aria-label={name ?? typeId} title={name ?? typeId} className="inline-flex shrink-0 text-ink-soft">
      <Glyph size={size} strokeWidth={2} aria-hidden="true" />
    </span>
  );
}
