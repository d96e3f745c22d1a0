"use client";
import { Search } from "lucide-react";
import { useEffect, useState } from "react";
import { itemInView } from "./in-view";
import { FindPanel } from "./find-panel";

/** What was in view when the box was opened. */
interface Opened {
  itemKey: string | null;
}

/**
 * One box to find items, comments, reports, people, views and places, and to act on what is in view.
 * Ctrl or ⌘ and K opens it.
 * @param at key of the project, or of the place above the projects, in which one is
 */
export function FindBox({ at }: { at: string }) {
  const [opened, setOpened] = useState<Opened | null>(null);
  const open = () => setOpened({ itemKey: itemInView() });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "k") return;
      event.preventDefault();
      setOpened((now) => now ?? { itemKey: itemInView() });
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
  return (
    <>
      <button
        type="button"
        // What has the focus says what is in view, so the press does not take it first.
        onPointerDown={(event) => event.preventDefault()}
        onClick={open}
        className="flex h-8 w-52 max-sm:w-8 items-center gap-2 rounded-[3px] border border-line-strong bg-paper px-2 text-[13px] text-ink-soft hover:border-ink"
      >
        <Search size={14} aria-hidden="true" />
        <span className="flex-1 text-left max-sm:sr-only">Find or do</span>
        <kbd className="max-sm:hidden">Ctrl K</kbd>
      </button>
      {opened && <FindPanel at={at} itemKey={opened.itemKey} onClose={() => setOpened(null)} />}
    </>
  );
}
