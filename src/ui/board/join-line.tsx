"use client";
import { useDeferredValue, useState, type KeyboardEvent } from "react";
import type { BoardView } from "@/core/board/board-view";
import type { Card } from "@/core/board/card";
import { foldCase } from "@/core/formats/fold-case";
import { TextButton } from "@/ui/kit/button";
import { TextInput } from "@/ui/kit/field";
import { TypeGlyph } from "@/ui/kit/type-glyph";

/** So many are offered at a time. */
const OFFERED = 6;

/** Puts an item that is there already into a list, found by its key or words of its title. */
export function JoinLine({
  view: { cards, board },
  onJoin,
  onLeave,
}: {
  view: BoardView;
  onJoin: (card: Card) => void;
  onLeave: () => void;
}) {
  const [text, setText] = useState("");
  const wanted = foldCase(useDeferredValue(text).trim());
  const words = wanted.split(/\s+/).filter(Boolean);
  const fits = ({ key, title }: Card) => {
    const said = `${foldCase(key)} ${foldCase(title)}`;
    return words.every((word) => said.includes(word));
  };
  const found =
    words.length === 0
      ? []
      : cards.filter((card) => board.places[card.id] === undefined && fits(card)).slice(0, OFFERED);
  const join = (card: Card) => {
    onJoin(card);
    setText("");
  };
  const onKeyDown = (event: KeyboardEvent) => {
    event.stopPropagation();
    if (event.key === "Escape") onLeave();
    if (event.key !== "Enter" || found.length === 0) return;
    event.preventDefault();
    join(found[0]);
  };
  return (
    <div className="add-line">
      <TextInput
        aria-label="An item that is there already"
        placeholder="or one by key or words"
        value={text}
        onKeyDown={onKeyDown}
        onChange={(event) => setText(event.target.value)}
      />
      {words.length > 0 && found.length === 0 && (
        <p className="text-[12px] text-ink-soft">
          Nothing that is not on this board yet is called so.
        </p>
      )}
      <ul>
        {found.map((card) => (
          <li key={card.id} className="flex items-center gap-1.5 py-0.5">
            <TypeGlyph typeId={card.typeId} size={12} />
            <TextButton className="min-w-0 truncate text-left" onClick={() => join(card)}>
              <span className="key">{card.key}</span> {card.title}
            </TextButton>
          </li>
        ))}
      </ul>
    </div>
  );
}
