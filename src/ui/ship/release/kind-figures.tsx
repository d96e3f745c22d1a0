"use client";
import type { ReactNode } from "react";
import { TextButton } from "@/ui/kit/button";

/** How many there are of each kind; a press shows those alone, another one all again. */
export function KindFigures<K extends string>({
  figures,
  words,
  only,
  onOnly,
  children,
}: {
  figures: readonly { kind: K; n: number }[];
  words: Record<K, string>;
  /** The kind that is shown alone; null where all are. */
  only: K | null;
  onOnly: (kind: K | null) => void;
  children?: ReactNode;
}) {
  return (
    <p className="flex flex-wrap gap-x-3 text-[12.5px]">
      {figures.map(({ kind, n }) => (
        <TextButton
          key={kind}
          aria-pressed={only === kind}
          className={only === kind ? "font-semibold" : ""}
          onClick={() => onOnly(only === kind ? null : kind)}
        >
          {n} {words[kind]}
        </TextButton>
      ))}
      {children}
    </p>
  );
}
