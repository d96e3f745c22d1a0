"use client";
import type { ItemView } from "@/core/item/item-view";
import { TextButton } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { tellProblem } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { ChildMenu } from "./child-menu";
import { sendCommand } from "./send-command";
import type { ItemHandle } from "./use-item";

/** What stands under an item, to be ticked when it is done; each opens. */
export function ChildList({ handle, small = false }: { handle: ItemHandle; small?: boolean }) {
  const { view, reload } = handle;
  const { openItem } = usePanel();
  const finish = async ({ id, card, finish: move }: ItemView["children"][number]) => {
    if (!move) return;
    await sendCommand(id, {
      kind: "move",
      from: card.stateId,
      to: move.to,
      answers: { outcome: "delivered" },
    }).catch(tellProblem);
    await reload();
  };
  return (
    <ul className={small ? "text-[12.5px]" : ""}>
      {view.children.map((child) => (
        <li key={child.id} className={`flex items-center ${small ? "gap-1.5" : "gap-2 py-0.5"}`}>
          <Check
            checked={child.finished}
            disabled={child.finished || !child.finish || !view.rights.move}
            onChange={() => void finish(child)}
            aria-label={`${child.title} is done`}
          />
          <span
            className={`min-w-0 flex-1 ${small ? "truncate" : ""} ${child.finished ? "text-ink-soft line-through" : ""}`}
            title={small ? `${child.key} ${child.title}, ${child.stateName}` : undefined}
          >
            {child.title}
          </span>
          {!small && (
            <>
              <span className="text-[12.5px] text-ink-soft">{child.stateName}</span>
              <TextButton className="key min-h-6" onClick={() => openItem(child.key)}>
                {child.key}
              </TextButton>
              {view.rights.edit && <ChildMenu handle={handle} child={child} />}
            </>
          )}
        </li>
      ))}
    </ul>
  );
}
