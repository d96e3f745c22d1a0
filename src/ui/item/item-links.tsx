"use client";
import { TextInput } from "@/ui/kit/field";
import { wordOptions, Select } from "@/ui/kit/select";
import { TextButton, Button } from "@/ui/kit/button";
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
  if (view.links.length === 0 && view.waitsUnseen === 0 && !view.rights.edit) return null;
  return (
    <section>
      <h3 className="mb-1 text-[13px]">Links</h3>
      <ul className="flex flex-col gap-0.5">
        {view.links.map((l) => (
          <li key={l.id} className="flex items-center gap-2">
            <span className="text-ink-soft">{l.words}</span>
            <TextButton className="key min-h-6 !text-accent" onClick={() => openItem(l.key)}>
              {l.key}
            </TextButton>
            <span className="flex-1 truncate">{l.title}</span>
            <span
              className={`text-[12.5px] ${l.wait === "ended otherwise" ? "font-semibold text-signal-ink" : "text-ink-soft"}`}
            >
              {l.stateName}
              {l.wait === "ended otherwise" && ", not delivered"}
            </span>
            {view.rights.edit && (
              <button
                type="button"
                aria-label={`Take away the link to ${l.key}`}
                className="inline-flex h-6 w-6 shrink-0 items-center justify-center text-ink-soft hover:text-alarm"
                onClick={() => void send({ kind: "unlink", linkId: l.id }).catch(tellProblem)}
              >
                <X size={14} aria-hidden="true" />
              </button>
            )}
          </li>
        ))}
        {view.waitsUnseen > 0 && (
          <li className="text-ink-soft">
            waits for{" "}
            {view.waitsUnseen === 1
              ? "an item outside your view"
              : `${view.waitsUnseen} items outside your view`}
          </li>
        )}
      </ul>
      {view.rights.edit &&
        (adding ? (
          <form onSubmit={add} className="mt-1 flex gap-2">
            <Select
              label="Kind of link"
              className="!w-auto"
              value={kind}
              options={wordOptions(LINK_KINDS)}
              onChange={(next) => setKind(next as LinkKind)}
            />
            <TextInput
              aria-label="Key of the other item"
              placeholder={`${view.project.key}-12`}
              required
              maxLength={30}
              autoFocus
              value={otherKey}
              onChange={(e) => setOtherKey(e.target.value)}
            />
            <Button type="submit" small className="!min-h-[30px]">
              Link
            </Button>
          </form>
        ) : (
          <TextButton className="mt-1 text-[13px]" onClick={() => setAdding(true)}>
            Link another item
          </TextButton>
        ))}
    </section>
  );
}
