"use client";
import type { ItemView } from "@/core/item/item-view";
import { ItemBody } from "./item-body";
import { FollowButton } from "./follow-button";
import { ItemVotes } from "./vote-buttons";
import { ItemMenu } from "./item-menu";
import { PinButton } from "./pin-button";
import { BRANCH_KEY, copyBranchName } from "@/ui/ship/copy-branch-name";
import { useScreenKeys } from "@/ui/kit/use-screen-keys";
import { useItem } from "./use-item";

/** The item on a page of its own. */
export function ItemPage({ initial }: { initial: ItemView }) {
  const { handle } = useItem(initial.key, initial);
  useScreenKeys({ [BRANCH_KEY]: () => void copyBranchName(initial.key) });
  if (!handle) return null;
  return (
    <div className="h-full overflow-y-auto" data-item={initial.key} data-item-open="">
      <div className="mx-auto max-w-[1260px] px-5 py-5">
        <div className="mb-2 flex items-center gap-2">
          <h1 className="key !text-[14px]">{initial.key}</h1>
          <PinButton id={initial.item.id} itemKey={initial.key} />
          <span className="flex-1" />
          <ItemVotes handle={handle} />
          <FollowButton wide handle={handle} />
          <ItemMenu handle={handle} />
        </div>
        <ItemBody handle={handle} wide />
      </div>
    </div>
  );
}
