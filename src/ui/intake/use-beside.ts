"use client";
import { useState } from "react";

/**
 * The reports before and after the one that is open. One that was judged meanwhile is in the list
 * no more; what follows it has moved into its place.
 */
export function useBeside(rows: readonly { id: string }[], openId: string | null) {
  const at = rows.findIndex((r) => r.id === openId);
  const [place, setPlace] = useState(0);
  if (at >= 0 && at !== place) setPlace(at);
  const [before, after] = at >= 0 ? [at - 1, at + 1] : [place - 1, place];
  return { previous: before < 0 ? undefined : rows[before], next: rows.at(after) };
}
