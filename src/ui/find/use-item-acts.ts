"use client";
import { useQuery } from "@tanstack/react-query";
import { useContext } from "react";
import { itemContract } from "@/core/item/contract";
import { projectKeyOf } from "@/core/item/key";
import { useTerms } from "@/ui/item/terms/use-terms";
import { usePins } from "@/ui/item/use-pins";
import { OptionNotes } from "@/ui/kit/option-notes";
import { BRANCH_KEY, branchCopied } from "@/ui/ship/copy-branch-name";
import { copyText } from "@/ui/kit/copy-text";
import { queryOf } from "@/ui/kit/request";
import type { OfferedAct } from "@/ui/kit/offered-acts";
import { itemActs } from "./item-acts";

/**
 * What can be done with an item from anywhere.
 * @param key of the item; null: of none
 */
export function useItemActs(
  key: string | null,
  openItem: (key: string) => void,
): { title: string; acts: OfferedAct[]; failed: boolean; waiting: boolean } {
  const notes = useContext(OptionNotes);
  const { isPinned, turn } = usePins();
  const { data: view, isError } = useQuery({
    ...queryOf(itemContract.read, { params: { key: key ?? "" } }, { retry: false }),
    enabled: key !== null,
  });
  const { terms } = useTerms(projectKeyOf(key ?? ""), key !== null);
  if (key === null) return { title: "", acts: [], failed: false, waiting: false };
  const open: OfferedAct = {
    id: "open",
    words: "Open",
    key: "Enter",
    act: () => openItem(key),
  };
  if (!view) return { title: key, acts: [], failed: isError, waiting: !isError };
  const { id } = view.item;
  const pin: OfferedAct = {
    id: "pin",
    words: isPinned(id) ? "Pin it no more" : "Pin it for me",
    key: "p",
    act: () => turn({ id, key }),
  };
  const { branchName } = view.code;
  const branch: OfferedAct = {
    id: "branch",
    words: "Copy its branch name",
    more: branchName,
    also: ["git branch"],
    key: BRANCH_KEY,
    act: () => void copyText(branchName, branchCopied(branchName)),
  };
  const title = `${key} ${view.item.title}`;
  return {
    title,
    acts: [...itemActs(view, { notes, terms }), branch, pin, open],
    failed: false,
    waiting: false,
  };
}
