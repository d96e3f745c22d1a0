"use client";
import { Eye, EyeOff } from "lucide-react";
import { alertsContract } from "@/core/alerts/contract";
import { counted } from "@/core/formats/counted";
import { Button } from "@/ui/kit/button";
import { Menu, MenuItem, MenuTitle } from "@/ui/kit/menu";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask } from "@/ui/kit/request";
import type { ItemHandle } from "./use-item";

/**
 * Whether I follow an item, alone or with all below it, and how many do: beside it where there is
 * room, else in its menu.
 */
export function FollowButton({ handle, wide = false }: { handle: ItemHandle; wide?: boolean }) {
  const { view, reload } = handle;
  const { mine, below, count } = view.talk.following;
  const follow = (kind: "item" | "below", on: boolean, done: string) =>
    void (async () => {
      await ask(alertsContract.follow, { body: { kind, target: view.item.id, on } });
      await reload();
      tellDone(done);
    })().catch(tellProblem);
  const stop = async () => {
    for (const kind of ["item", "below"] as const)
      if (kind === "item" || below)
        await ask(alertsContract.follow, { body: { kind, target: view.item.id, on: false } });
    await reload();
    tellDone(`You follow ${view.key} no more.`);
  };
  const level = view.types.find(({ id }) => id === view.item.typeId)?.level ?? 1;
  const isLarge = level > 1 || view.children.length > 0;
  const words = mine ? (below ? "Following with all below" : "Following") : "Follow";
  return (
    <span className="inline-flex items-center gap-2 text-[12.5px] text-ink-soft">
      {wide && count > 0 && <span>followed by {counted(count, "person", "people")}</span>}
      <Menu
        align="end"
        trigger={
          <Button small look="quiet" aria-pressed={mine}>
            {mine ? <Eye size={14} aria-hidden="true" /> : <EyeOff size={14} aria-hidden="true" />}
            {words}
          </Button>
        }
      >
        {!wide && count > 0 && (
          <MenuTitle>followed by {counted(count, "person", "people")}</MenuTitle>
        )}
        {!mine && (
          <MenuItem onSelect={() => follow("item", true, `You follow ${view.key}.`)}>
            Follow it
          </MenuItem>
        )}
        {isLarge && !below && (
          <MenuItem
            onSelect={() => follow("below", true, `You follow ${view.key} with all below it.`)}
          >
            Follow it with all below
          </MenuItem>
        )}
        {mine && (
          <MenuItem onSelect={() => void stop().catch(tellProblem)}>Stop following it</MenuItem>
        )}
      </Menu>
    </span>
  );
}
