"use client";
import { X } from "lucide-react";
import { useState } from "react";
import { grouped } from "@/core/item/grouped";
import type { ItemView, ItemViewLink } from "@/core/item/item-view";
import { LINK_WAYS } from "@/core/item/link-way";
import { TextButton } from "@/ui/kit/button";
import { Field } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { wordOptions, Select } from "@/ui/kit/select";
import { ItemPicker, type PickedItem } from "./item-picker";
import type { ItemHandle } from "./use-item";

/** Links to other items, in this project and in others. */
export function ItemLinks({ handle }: { handle: ItemHandle }) {
  const { view } = handle;
  const [adding, setAdding] = useState(false);
  if (view.links.length === 0 && view.waitsUnseen === 0 && !view.rights.edit) return null;
  return (
    <section aria-label="Links">
      <h3 className="mb-1 text-[13px]">Links</h3>
      {[...grouped(view.links, ({ words }) => words)].map(([words, links]) => (
        <div key={words} className="mb-1.5">
          <p className="text-[12.5px] text-ink-soft">{words}</p>
          <ul className="flex flex-col gap-1">
            {links.map((link) => (
              <LinkLine key={link.id} handle={handle} link={link} />
            ))}
          </ul>
        </div>
      ))}
      {view.waitsUnseen > 0 && <p className="text-ink-soft">{unseenWords(view)}</p>}
      {view.rights.edit &&
        (adding ? (
          <LinkForm handle={handle} onDone={() => setAdding(false)} />
        ) : (
          <TextButton className="mt-1 text-[13px]" onClick={() => setAdding(true)}>
            Link another item
          </TextButton>
        ))}
    </section>
  );
}

const unseenWords = ({ waitsUnseen }: ItemView): string =>
  waitsUnseen === 1
    ? "waits for an item outside your view"
    : `waits for ${waitsUnseen} items outside your view`;

function LinkLine({ handle, link }: { handle: ItemHandle; link: ItemViewLink }) {
  const { view, send, link: linkAgain } = handle;
  const { openItem } = usePanel();
  const takeAway = async () => {
    await send({ kind: "unlink", linkId: link.id });
    tellDone(`${view.key} is not linked to ${link.key} any more.`, () =>
      linkAgain(wayOf(link.words), link.key),
    );
  };
  const ended = link.wait === "ended otherwise";
  const rest = [link.owner, link.sprintName].filter((one) => one !== null);
  return (
    <li className="flex items-start gap-2">
      <TextButton className="key min-h-6 shrink-0 !text-accent" onClick={() => openItem(link.key)}>
        {link.key}
      </TextButton>
      <span className="min-w-0 flex-1">
        <span className={`block truncate ${link.finished ? "text-ink-soft line-through" : ""}`}>
          {link.title}
        </span>
        <span className="block text-[12.5px] text-ink-soft">
          <span className={ended ? "font-semibold text-signal-ink" : ""}>
            {link.stateName}
            {ended && ", not delivered"}
          </span>
          {rest.map((one) => ` · ${one}`)}
        </span>
      </span>
      {view.rights.edit && (
        <button
          type="button"
          aria-label={`Take away the link to ${link.key}`}
          className="inline-flex h-6 w-6 shrink-0 items-center justify-center text-ink-soft hover:text-alarm"
          onClick={() => void takeAway().catch(tellProblem)}
        >
          <X size={14} aria-hidden="true" />
        </button>
      )}
    </li>
  );
}

const wayOf = (words: string) => LINK_WAYS.find((way) => way.words === words)!;
const WAY_WORDS = LINK_WAYS.map(({ words }) => words);

function LinkForm({ handle, onDone }: { handle: ItemHandle; onDone: () => void }) {
  const { view, link } = handle;
  const [words, setWords] = useState("relates to");
  const [other, setOther] = useState<PickedItem | null>(null);
  const [busy, setBusy] = useState(false);
  const send = async () => {
    if (!other) return;
    setBusy(true);
    await link(wayOf(words), other.key).then(onDone, () => setBusy(false));
  };
  return (
    <form
      aria-label="Link another item"
      className="mt-1 flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <Field label="How it is linked">
        <Select value={words} options={wordOptions(WAY_WORDS)} onChange={setWords} />
      </Field>
      <ItemPicker
        projectKey={view.project.key}
        anywhere
        not={view.item.id}
        label="The other item"
        proposed={[]}
        chosen={other}
        onChange={setOther}
      />
      <FormFooter send="Link them" busy={busy} problem={null} disabled={!other} onLeave={onDone} />
    </form>
  );
}
