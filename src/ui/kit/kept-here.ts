import { useSyncExternalStore } from "react";

/** Something that is kept on this machine under a name; every part of the page that reads it follows. */
export function keptHere(storedAs: string) {
  const listeners = new Set<() => void>();
  const subscribe = (tell: () => void) => {
    listeners.add(tell);
    return () => void listeners.delete(tell);
  };
  const read = (): string | null => {
    try {
      return localStorage.getItem(storedAs);
    } catch {
      return null;
    }
  };
  const write = (value: string | null): void => {
    try {
      if (value === null) localStorage.removeItem(storedAs);
      else localStorage.setItem(storedAs, value);
    } catch {
      // Not remembered, then.
    }
    for (const tell of listeners) tell();
  };
  /** As it is kept; null where nothing is, and on the server. */
  const useKept = (): string | null => useSyncExternalStore(subscribe, read, () => null);
  return { read, write, useKept };
}
