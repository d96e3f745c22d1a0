"use client";
import { useEffect, useState } from "react";

/** What the address names behind its `#`; `turn` counts how often it was named. */
export function useHash(): { place: string; turn: number } {
  const [named, setNamed] = useState({ place: "", turn: 0 });
  useEffect(() => {
    const look = () =>
      setNamed(({ turn }) => ({ place: window.location.hash.slice(1), turn: turn + 1 }));
    look();
    window.addEventListener("hashchange", look);
    return () => window.removeEventListener("hashchange", look);
  }, []);
  return named;
}

/** Goes to a place of the page, also where the address names it already. */
export function goToPlace(place: string): void {
  if (window.location.hash.slice(1) === place) window.dispatchEvent(new Event("hashchange"));
  else window.location.hash = place;
}
