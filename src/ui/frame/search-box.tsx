"use client";
import { useQuery } from "@tanstack/react-query";
import { Command } from "cmdk";
import { Search } from "lucide-react";
import { useRouter } from "next/navigation";
import { useDeferredValue, useEffect, useState } from "react";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { projectKeyOf } from "@/core/item/key";
import { itemContract } from "@/core/item/contract";
import { queryOf } from "@/ui/kit/request";

const PLACES = ["Design", "Intake", "Plan", "Flow", "Learn"];

/** What the requester of a report and the team call it. */
const REFERENCE = /^r-[0-9a-z]{4,12}$/i;

/** One box to find items and go places. Ctrl or ⌘ and K opens it. */
export function SearchBox({ projectKey }: { projectKey: string }) {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const wanted = useDeferredValue(text.trim());
  const { data: found = [], isError } = useQuery({
    ...queryOf(itemContract.search, { query: { q: wanted } }, { retry: false }),
    enabled: open && wanted.length > 1,
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "k") {
        event.preventDefault();
        setOpen(true);
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
  const go = (path: string) => {
    setOpen(false);
    setText("");
    router.push(path);
  };
  return (
    <>
      <button
        type="button"
        onClick={() => setOpen(true)}
        className="flex h-8 w-52 max-sm:w-8 items-center gap-2 rounded-[3px] border border-line-strong bg-paper px-2 text-[13px] text-ink-soft hover:border-ink"
      >
        <Search size={14} aria-hidden="true" />
        <span className="flex-1 text-left max-sm:sr-only">Find or do</span>
        <kbd className="max-sm:hidden">Ctrl K</kbd>
      </button>
      <Command.Dialog
        open={open}
        onOpenChange={setOpen}
        label="Find items and go places"
        shouldFilter={false}
        overlayClassName="fixed inset-0 z-50 bg-ink/20"
        contentClassName="fixed left-1/2 top-24 z-50 w-[560px] max-w-[92vw] -translate-x-1/2 popover !p-0"
      >
        <Command.Input
          value={text}
          onValueChange={setText}
          placeholder="The key of an item, a report’s reference, words of a title, or a place"
          className="w-full border-b border-line bg-transparent px-4 py-3 text-[15px] outline-none"
        />
        <Command.List className="max-h-[50vh] overflow-y-auto p-1">
          {wanted.length > 1 && (
            <Command.Empty className="px-3 py-4 text-ink-soft">
              {isError
                ? "The search did not get through. Try again in a moment."
                : "Nothing like that in the projects you can see."}
            </Command.Empty>
          )}
          {found.map((item) => (
            <Command.Item
              key={item.id}
              value={item.id}
              onSelect={() => go(`/p/${projectKeyOf(item.key)}/items/${item.key}`)}
              className="menu-item data-[selected=true]:bg-accent-soft"
            >
              <TypeGlyph typeId={item.typeId} />
              <span className="key w-16">{item.key}</span>
              <span className="flex-1 truncate">{item.title}</span>
              <span className="text-[12.5px] text-ink-soft">{item.stateName}</span>
            </Command.Item>
          ))}
          {wanted.length > 1 && (
            <Command.Item
              value="reports"
              onSelect={() =>
                go(
                  `/p/${projectKey}/intake?${REFERENCE.test(wanted) ? "report" : "find"}=${encodeURIComponent(wanted)}`,
                )
              }
              className="menu-item data-[selected=true]:bg-accent-soft"
            >
              <span className="text-ink-soft">
                {REFERENCE.test(wanted) ? "Open report" : "Look among the reports for"}
              </span>{" "}
              {wanted}
            </Command.Item>
          )}
          {PLACES.filter((p) => p.toLowerCase().startsWith(wanted.toLowerCase())).map((place) => (
            <Command.Item
              key={place}
              value={place}
              onSelect={() => go(`/p/${projectKey}/${place.toLowerCase()}`)}
              className="menu-item data-[selected=true]:bg-accent-soft"
            >
              <span className="text-ink-soft">Go to</span> {place}
            </Command.Item>
          ))}
        </Command.List>
      </Command.Dialog>
    </>
  );
}
