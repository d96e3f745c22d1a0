"use client";
import { useEffect } from "react";
import { useHash } from "@/ui/kit/use-hash";

export const commentPlace = (id: string): string => `comment-${id}`;

/** The comment that the address names, brought into sight; null where it names none. */
export function useNamedComment(ids: readonly string[]): string | null {
  const { place, turn } = useHash();
  const named = ids.find((id) => commentPlace(id) === place) ?? null;
  useEffect(() => {
    if (named !== null)
      document.getElementById(commentPlace(named))?.scrollIntoView({ block: "center" });
  }, [named, turn]);
  return named;
}
