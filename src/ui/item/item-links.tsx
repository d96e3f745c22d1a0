"use client";
import { X } from "lucide-react";
import { useState, type FormEvent } from "react";
import { LINK_KINDS, type LinkKind } from "@/core/item/fields";
import { tellProblem } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import type { ItemHandle } from "./use-item";

/** Links to other items. */
export function ItemLinks({ handle }: { handle: ItemHandle }) {
  const { view, send, link } = handle;
  const { openItem } = usePanel();
  const [adding, setAdding] = useState(false);
  const [kind, setKind] = useState<LinkKind>("relates to");
  const [otherKey, setOtherKey] = useState("");
  const add = (event: FormEvent) => {
    event.preventDefault();
    link(kind, otherKey).then(
      () => {
        setAdding(false);
        setOtherKey("");
      },
      () => {},
    );
  };
  if (view.links.length === 0 && !view.rights.edit) return null;
  return (
    <section>
      <h3 className="mb-1 text-[13px]">Links</h3>
      <ul className="flex flex-col gap-0.5">
        {view.links.map((l) => (
          <li key={l.id} className="flex items-center gap-2">
            <span className="text-ink-soft">{l.words}</span>
            <button type="button" className="link key !text-accent" onClick={() => openItem(l.key)}>
              {l.key}
            </button>
            <span className="flex-1 truncate">{l.title}</span>
            <span className="text-[12.5px] text-ink-soft">{l.stateName}</span>
            {view.rights.edit && (
              <button
                type="button"
                aria-label={`Take away the link to ${l.key}`}
                className="text-ink-soft hover:text-alarm"
                onClick={() => void send({ kind: "unlink", linkId: l.id }).catch(tellProblem)}
              >
                <X size={14} aria-hidden="true" />
              </button>
            )}
          </li>
        ))}
      </ul>
      {view.rights.edit &&
        (adding ? (
          <form onSubmit={add} className="mt-1 flex gap-2">
            <select
              aria-label="Kind of link"
              className="field !w-auto"
              value={kind}
              onChange={(e) => setKind(e.target.value as LinkKind)}
            >
              {LINK_KINDS.map((k) => (
                <option key={k}>{k}</option>
              ))}
            </select>
            <input
              className="field"
              aria-label="Key of the other item"
              placeholder={`${view.project.key}-12`}
              required
              maxLength={30}
              autoFocus
              value={otherKey}
              onChange={(e) => setOtherKey(e.target.value)}
            />
            <button type="submit" className="button button-small !min-h-[30px]">
              Link
            </button>
          </form>
        ) : (
          <button type="button" className="link mt-1 text-[13px]" onClick={() => setAdding(true)}>
            Link another item
          </button>
        ))}
    </section>
  );
}
