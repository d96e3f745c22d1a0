"use client";
import { createContext, useContext, type ReactNode } from "react";
import { FIRST_TYPES, type TypeGlyphName } from "@/core/item/item-type";

/** The signs of item types, drawn for this product on a 16 px grid. */
const DRAWINGS: Record<TypeGlyphName, ReactNode> = {
  peak: <path d="M1.5 12.5h2.2L6.2 4h3.6l2.5 8.5h2.2" />,
  lozenge: <path d="M8 1.5 14.5 8 8 14.5 1.5 8Z M8 5v3.6 M8 10.8v.4" />,
  speech: <path d="M2 3h12v8H8.5L5 14v-3H2Z" />,
  stroke: <path d="M2.5 8.5 6.3 12 13.5 4" />,
  square: <rect x="2.5" y="2.5" width="11" height="11" />,
  anchor: (
    <path d="M8 5.5v8.5M4 8.5h8M2.5 9.5c.3 3 2.6 4.6 5.5 4.6s5.2-1.6 5.5-4.6M8 5.5a1.8 1.8 0 1 1 0-3.6 1.8 1.8 0 0 1 0 3.6Z" />
  ),
  wave: (
    <path d="M1.5 6c2.2-2.4 4.3-2.4 6.5 0s4.3 2.4 6.5 0M1.5 11c2.2-2.4 4.3-2.4 6.5 0s4.3 2.4 6.5 0" />
  ),
  gate: <path d="M2.5 14V3.5M13.5 14V3.5M2.5 5.5h11M2.5 9.5h11" />,
  flag: <path d="M3.5 14.5V2M3.5 2.5h9.5l-2.2 3 2.2 3H3.5" />,
  lamp: <path d="M5.5 10.5a4 4 0 1 1 5 0v2h-5ZM6.5 14.5h3" />,
  rope: <path d="M2 12c0-9 5-9 6-4s6 5 6-4" />,
  buoy: <path d="M3 13.5h10M4.5 13.5 7 5h2l2.5 8.5M8 5V2" />,
};

export interface KnownType {
  id: string;
  name: string;
  glyph: TypeGlyphName;
  level: number;
}

const Types = createContext<readonly KnownType[]>(Object.values(FIRST_TYPES));

/** Makes the item types of a project known to everything that shows their signs. */
export function KnownTypes({
  types,
  children,
}: {
  types: readonly KnownType[];
  children: ReactNode;
}) {
  return <Types value={types}>{children}</Types>;
}

/** The item types of the project that is open. */
export const useKnownTypes = (): readonly KnownType[] => useContext(Types);

export function GlyphDrawing({ glyph, size = 14 }: { glyph: TypeGlyphName; size?: number }) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 16 16"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.6"
      strokeLinejoin="round"
      strokeLinecap="round"
      aria-hidden="true"
    >
      {DRAWINGS[glyph]}
    </svg>
  );
}

/** The sign of an item type, with its name for those who do not see it. */
export function TypeGlyph({
  typeId,
  name,
  size = 14,
}: {
  typeId: string;
  name?: string;
  size?: number;
}) {
  const type = useKnownTypes().find((t) => t.id === typeId);
  const label = name ?? type?.name ?? "Item";
  return (
    <span
      role="img"
      aria-label={label}
      title={label}
      className="inline-flex shrink-0 text-ink-soft"
    >
      <GlyphDrawing glyph={type?.glyph ?? "square"} size={size} />
    </span>
  );
}
