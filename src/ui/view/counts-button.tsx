"use client";
import { isFactName, type FactName } from "@/core/condition/facts";
import { isCounted } from "@/core/item/list/listed";
import { Button } from "@/ui/kit/button";
import { useScreenKeys } from "@/ui/kit/use-screen-keys";
import type { LookHandle } from "./use-look";

const USUAL: readonly FactName[] = ["assigneeId", "priority"];
const STORED_AS = "counted-fields";

/** The fields that were counted last on this machine. */
function remembered(): readonly FactName[] {
  try {
    const names = (localStorage.getItem(STORED_AS) ?? "").split("~");
    const facts = names.filter((name) => isFactName(name) && isCounted(name)) as FactName[];
    return facts.length > 0 ? facts : USUAL;
  } catch {
    return USUAL;
  }
}

function remember(facts: readonly FactName[]): void {
  try {
    localStorage.setItem(STORED_AS, facts.join("~"));
  } catch {
    // Not remembered, then.
  }
}

/** Opens and closes the values with counts; which fields they were is remembered. */
export function CountsButton({ handle: { look, kept, change } }: { handle: LookHandle }) {
  const open = look.counts.length > 0;
  const turn = () => {
    if (open) remember(look.counts);
    change({ counts: open ? [] : kept.counts.length > 0 ? kept.counts : remembered() });
  };
  useScreenKeys({ f: turn }, { part: "counts", words: { f: "Values with counts" } });
  return (
    <Button aria-pressed={open} onClick={turn} title="Values with counts (f)">
      Counts <kbd>f</kbd>
    </Button>
  );
}
