"use client";
import { useState } from "react";
import { counted } from "@/core/formats/counted";
import { listWords } from "@/core/formats/list-words";
import {
  spreadOf,
  type AlikeSized,
  type SizingAct,
  type SizingRound,
  type SizingView,
} from "@/core/plan/sizing-view";
import { Button, TextButton } from "@/ui/kit/button";
import { Initials } from "@/ui/kit/initials";
import { usePanel } from "@/ui/kit/panel-context";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { AlikeItems } from "./alike-items";

/** A round about an item: what each says stays with them until it is shown. */
export function Round({
  round,
  view,
  act,
  alike,
}: {
  round: SizingRound;
  view: SizingView;
  act: (body: SizingAct) => Promise<boolean>;
  alike?: AlikeSized[];
}) {
  const { openItem } = usePanel();
  const { id, item, shown, votes, again } = round;
  const [busy, setBusy] = useState(false);
  const doing = (body: SizingAct) => () => {
    setBusy(true);
    void act(body).finally(() => setBusy(false));
  };
  return (
    <section className="sizing-round" aria-label={`Size of ${item.key}`} data-key={item.key}>
      <div className="flex items-baseline gap-2">
        <TypeGlyph typeId={item.typeId} />
        <span className="key">{item.key}</span>
        <button
          type="button"
          className="min-w-0 flex-1 truncate text-left text-[16px] font-bold hover:underline"
          onClick={() => openItem(item.key)}
        >
          {item.title}
        </button>
        <span className="text-[12.5px] text-ink-soft">
          begun by {round.openedBy}
          {again > 0 && `, time ${again + 1}`}
        </span>
      </div>
      <Steps round={round} view={view} busy={busy} onChoose={doing} />
      <Said round={round} />
      {view.rights.size && (
        <div className="mt-2 flex flex-wrap items-center gap-2">
          {!shown && (
            <Button
              look="accent"
              disabled={busy || votes.length === 0}
              onClick={doing({ kind: "show", id })}
            >
              Show what {counted(votes.length, "person said", "people said")}
            </Button>
          )}
          {shown && (
            <Button disabled={busy} onClick={doing({ kind: "again", id })}>
              Once more
            </Button>
          )}
          <TextButton onClick={doing({ kind: "leave", id })}>Leave it without a size</TextButton>
        </div>
      )}
      <AlikeItems projectKey={view.project.key} itemId={item.id} initial={alike} />
    </section>
  );
}

/** The sizes to choose from; once all is shown, who said each, and which one to settle on. */
function Steps({
  round: { id, item, shown, votes, mine },
  view: { scale, rights },
  busy,
  onChoose,
}: {
  round: SizingRound;
  view: SizingView;
  busy: boolean;
  onChoose: (body: SizingAct) => () => void;
}) {
  const steps: { name: string; size: number | null }[] = [
    ...scale.steps.map(({ name, size }) => ({
      name: scale.kind === "hours" ? `${name} h` : name,
      size,
    })),
    ...(shown ? [] : [{ name: "?", size: null }]),
  ];
  const saidOf = (size: number | null) => votes.filter((vote) => vote.size === size);
  return (
    <ul className="sizing-steps" aria-label={shown ? `What was said of ${item.key}` : "Sizes"}>
      {steps.map(({ name, size }) => {
        const said = shown ? saidOf(size) : [];
        return (
          <li key={name} data-size={name} data-said={said.length > 0 || undefined}>
            <span className="sizing-who">
              {said.map(({ personId, name: who }) => (
                <Initials key={personId} name={who} size={24} />
              ))}
            </span>
            <button
              type="button"
              aria-pressed={!shown && mine === size}
              aria-label={labelOf({ shown, name, size, key: item.key })}
              disabled={!rights.size || busy}
              onClick={onChoose(
                shown && size !== null ? { kind: "settle", id, size } : { kind: "say", id, size },
              )}
            >
              {name}
            </button>
            {scale.kind === "letters" && size !== null && <i>{size}</i>}
          </li>
        );
      })}
    </ul>
  );
}

function labelOf({
  shown,
  name,
  size,
  key,
}: {
  shown: boolean;
  name: string;
  size: number | null;
  key: string;
}): string {
  if (shown) return `${name}: settle on it for ${key}`;
  return size === null ? `${name}: I cannot say how large ${key} is` : `${name}: my size of ${key}`;
}

/** Who has said something, or how far apart they are. */
function Said({ round: { shown, votes } }: { round: SizingRound }) {
  if (!shown)
    return (
      <p className="text-[13px] text-ink-soft" role="status">
        {votes.length === 0
          ? "Nobody has said a size yet."
          : `${listWords(
              votes.map(({ name }) => name),
              "and",
            )} ${votes.length === 1 ? "has" : "have"} said one. It is seen once it is shown to all.`}
      </p>
    );
  const spread = spreadOf(votes);
  const unsure = votes.filter(({ size }) => size === null);
  const names = (of: typeof votes) =>
    listWords(
      of.map(({ name }) => name),
      "and",
    );
  return (
    <p className="text-[13px]" role="status">
      {spread === null ? (
        <b>All say the same: choose it to settle on it.</b>
      ) : (
        <>
          <b>Talk about it:</b> {names(spread.least)} say{spread.least.length === 1 && "s"} the
          least, {names(spread.most)} the most. Then choose the size you settle on.
        </>
      )}
      {unsure.length > 0 && ` ${names(unsure)} cannot say.`}
    </p>
  );
}
