import type { ReactNode } from "react";

/** The signs of item types, drawn for this product on a 16 px grid. */
const GLYPHS: Record<string, ReactNode> = {
  bug: <path d="M8 1.5 14.5 8 8 14.5 1.5 8Z M8 5v3.6 M8 10.8v.4" />,
  story: <path d="M1.5 12.5h2.2L6.2 4h3.6l2.5 8.5h2.2" />,
  request: <path d="M2 3h12v8H8.5L5 14v-3H2Z" />,
  task: <path d="M2.5 8.5 6.3 12 13.5 4" />,
};

/** The sign of an item type, with its name for those who do not see it. */
export function TypeGlyph({ typeId, name, size = 14 }: { typeId: string; name?: string; size?: number }) {
  return (
    <span role="img" aria-label={name ?? typeId} title={name ?? typeId} className="inline-flex shrink-0 text-ink-soft">
      <svg width={size} height={size} viewBox="0 0 16 16" fill="none" stroke="currentColor" strokeWidth="1.6" strokeLinejoin="round" strokeLinecap="round" aria-hidden="true">
        {GLYPHS[typeId] ?? <rect x="2.5" y="2.5" width="11" height="11" />}
      </svg>
    </span>
  );
}
