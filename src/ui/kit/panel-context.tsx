"use client";
import { usePathname, useSearchParams } from "next/navigation";
import { createContext, useCallback, useContext, useMemo, useState, type ReactNode } from "react";

/** The items behind a figure. */
export interface Behind {
  title: string;
  /** Of items outside the reader's view only that they count is known (OUTSIDE_VIEW). */
  ids: string[];
  /** How many more count that the reader may not see. */
  unseen?: number;
}

interface Panel {
  /** Key of the item that is open; also in the address, so it can be shared. */
  itemKey: string | null;
  behind: Behind | null;
  /** @param place of what in it is meant, e.g. a comment */
  openItem: (key: string, place?: string) => void;
  openBehind: (behind: Behind) => void;
  close: () => void;
}

const PanelContext = createContext<Panel | null>(null);

export function usePanel(): Panel {
  const panel = useContext(PanelContext);
  if (!panel) throw new Error("usePanel needs a PanelProvider above it");
  return panel;
}

/**
 * Holds what is docked at the right: an item, or the list behind a figure, or the item opened from
 * that list.
 */
export function PanelProvider({ children }: { children: ReactNode }) {
  const pathname = usePathname();
  const search = useSearchParams();
  const [behind, setBehind] = useState<Behind | null>(null);
  const itemKey = search.get("item");
  const setItem = useCallback(
    (key: string | null, place?: string) => {
      const next = new URLSearchParams(window.location.search);
      if (key) next.set("item", key);
      else next.delete("item");
      const query = next.toString();
      const hash = place ? `#${place}` : "";
      window.history.pushState(null, "", (query ? `${pathname}?${query}` : pathname) + hash);
      // Whoever looks at what the address names hears of no other change of it.
      window.dispatchEvent(new HashChangeEvent("hashchange"));
    },
    [pathname],
  );
  const panel = useMemo<Panel>(
    () => ({
      itemKey,
      behind,
      openItem: (key, place) => setItem(key, place),
      openBehind: (next) => {
        setBehind(next);
        setItem(null);
      },
      // First the item, then the list it was opened from.
      close: () => (itemKey ? setItem(null) : setBehind(null)),
    }),
    [itemKey, behind, setItem],
  );
  return <PanelContext.Provider value={panel}>{children}</PanelContext.Provider>;
}
