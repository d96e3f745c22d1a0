"use client";
import { useSyncExternalStore } from "react";

const STORED_AS = "sprints-beside-board";
const listeners = new Set<() => void>();

const subscribe = (tell: () => void) => {
  listeners.add(tell);
  return () => void listeners.delete(tell);
};

function isOpen(): boolean {
  try {
    return localStorage.getItem(STORED_AS) === "open";
  } catch {
    return false;
  }
}

/** Whether the sprints stand beside boards on this machine. */
export const useSprintsBeside = (): boolean => useSyncExternalStore(subscribe, isOpen, () => false);

export function turnSprintsBeside(): void {
  try {
    if (isOpen()) localStorage.removeItem(STORED_AS);
    else localStorage.setItem(STORED_AS, "open");
  } catch {
    // Not remembered, then.
  }
  for (const tell of listeners) tell();
}
