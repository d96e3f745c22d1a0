"use client";
import { useEffect, useState } from "react";

export const commentPlace = (id: string): string => `comment-${id}`;

/** The comment that the address names, brought into sight; null where it names none. */
export function useNamedComment(ids: readonly string[]): string | null {
  const [place, setPlace] = useState("");
  useEffect(() => {
    const look = () => setPlace(window.location.hash.slice(1));
    look();
    window.addEventListener("hashchange", look);
    return () => window.removeEventListener("hashchange", look);
  }, []);
  const named = ids.find((id) => commentPlace(id) === place) ?? null;
  useEffect(() => {
    if (named !== null)
      document.getElementById(commentPlace(named))?.scrollIntoView({ block: "center" });
  }, [named]);
  return named;
}
