import { heldWords, limitTitle, type CountedLimit } from "@/core/board/board-limits";
import { limitTone } from "./limit-tone";

const nameOf = ({ field, name }: CountedLimit) => (field === null ? name : name.split(", ").at(-1));

/** A limit of a part of a column, in words. */
export function PartLimit({
  limit,
  defaultSize,
  bare = false,
}: {
  limit: CountedLimit;
  defaultSize: number;
  /** Where it stands in a cell, it needs no name. */
  bare?: boolean;
}) {
  const { state, words } = heldWords(limit);
  return (
    <span
      className={`block truncate text-left text-[11.5px] ${limitTone(state)}`}
      title={limitTitle(limit, defaultSize)}
    >
      {!bare && <span className="inline-block first-letter:uppercase">{nameOf(limit)}</span>}{" "}
      {words}
    </span>
  );
}
