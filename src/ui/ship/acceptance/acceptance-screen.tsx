"use client";
import { useSearchParams } from "next/navigation";
import { useState } from "react";
import {
  ACCEPTANCE_PARTS,
  acceptanceRows,
  type AcceptancePart,
  type AcceptanceRow,
} from "@/core/ship/acceptance/acceptance-rows";
import type { AcceptanceView } from "@/core/ship/acceptance/acceptance-view";
import { Button } from "@/ui/kit/button";
import { Sheet } from "@/ui/kit/sheet";
import { useScreenKeys } from "@/ui/kit/use-screen-keys";
import { AcceptanceLine } from "./acceptance-line";
import { OwnShownList } from "./own-shown";
import { ShowForm } from "./show-form";
import { useAcceptance } from "./use-acceptance";

const PARTS = Object.keys(ACCEPTANCE_PARTS) as AcceptancePart[];

/** So many that were accepted stand there before the others are asked for. */
const ACCEPTED_SHOWN = 12;

/** What waits to be accepted, by whom, and what they miss. */
export function AcceptanceScreen({ initial }: { initial: AcceptanceView }) {
  const handle = useAcceptance(initial);
  const { view } = handle;
  const rows = acceptanceRows(view);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const asked = useSearchParams().get("show");
  const [showing, setShowing] = useState<string[] | null>(asked ? asked.split(",") : null);
  const keys = rows.filter(({ itemId }) => chosen.has(itemId)).map(({ key }) => key);
  const showChosen = () => {
    if (view.rights.edit && keys.length > 0) setShowing(keys);
  };
  useScreenKeys(
    { s: showChosen },
    { part: "acceptance", words: { s: "Show what is chosen to somebody" } },
  );
  const choose = (itemId: string, on: boolean) =>
    setChosen(new Set(on ? [...chosen, itemId] : [...chosen].filter((id) => id !== itemId)));
  return (
    <div className="flex h-full flex-col">
      <div className="flex min-h-12 shrink-0 flex-wrap items-center gap-x-4 border-b border-line px-4 py-2">
        <h1 className="text-[18px]">Acceptance</h1>
        <p className="text-ink-soft">{headWords(rows)}</p>
        <span className="flex-1" />
        {view.rights.edit && keys.length > 0 && (
          <Button look="accent" small onClick={showChosen}>
            Show {keys.length} to somebody … <kbd>s</kbd>
          </Button>
        )}
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto px-4 py-3">
        <OwnShownList handle={handle} />
        {PARTS.map((part) => (
          <Part
            key={part}
            part={part}
            rows={rows.filter((row) => row.part === part)}
            handle={handle}
            chosen={chosen}
            onChoose={choose}
            onShow={(key) => setShowing([key])}
          />
        ))}
        {rows.length === 0 && <NothingYet view={view} />}
      </div>
      <Sheet
        open={showing !== null}
        onClose={() => setShowing(null)}
        title="Show it to somebody, so that they accept it"
        className="!top-12 !max-h-[calc(100dvh-6rem)] !w-[720px]"
      >
        {showing !== null && (
          <ShowForm
            keys={showing}
            handle={handle}
            onShown={() => setChosen(new Set())}
            onLeave={() => setShowing(null)}
          />
        )}
      </Sheet>
    </div>
  );
}

/** "1 misses something · 4 wait for a word · 2 to be shown" */
function headWords(rows: readonly AcceptanceRow[]): string {
  const count = (part: AcceptancePart) => rows.filter((row) => row.part === part).length;
  const [missing, waits, unshown] = [count("missing"), count("waits"), count("unshown")];
  const words = [
    missing > 0 && `${missing} ${missing === 1 ? "misses" : "miss"} something`,
    waits > 0 && `${waits} ${waits === 1 ? "waits" : "wait"} for a word`,
    unshown > 0 && `${unshown} to be shown`,
  ].filter(Boolean);
  return words.join(" · ") || "nothing waits to be accepted";
}

function Part({
  part,
  rows,
  handle,
  chosen,
  onChoose,
  onShow,
}: {
  part: AcceptancePart;
  rows: readonly AcceptanceRow[];
  handle: ReturnType<typeof useAcceptance>;
  chosen: ReadonlySet<string>;
  onChoose: (itemId: string, on: boolean) => void;
  onShow: (key: string) => void;
}) {
  const [all, setAll] = useState(false);
  if (rows.length === 0) return null;
  const shown = part === "accepted" && !all ? rows.slice(0, ACCEPTED_SHOWN) : rows;
  return (
    <section aria-label={ACCEPTANCE_PARTS[part]} className="mb-6">
      <h2 className="mb-1 flex items-baseline gap-2 text-[15px]">
        {ACCEPTANCE_PARTS[part]}{" "}
        <span
          className={`font-display tabular-nums ${part === "missing" ? "text-alarm" : "text-ink-soft"}`}
        >
          {rows.length}
        </span>
      </h2>
      <ul className="acceptance-rows">
        {shown.map((row) => (
          <AcceptanceLine
            key={row.itemId}
            row={row}
            handle={handle}
            chosen={chosen.has(row.itemId)}
            onChoose={(on) => onChoose(row.itemId, on)}
            onShow={() => onShow(row.key)}
          />
        ))}
      </ul>
      {rows.length > shown.length && (
        <Button small look="quiet" className="mt-1" onClick={() => setAll(true)}>
          {rows.length - shown.length} more
        </Button>
      )}
    </section>
  );
}

/** What belongs here, and the first step. */
const NothingYet = ({ view }: { view: AcceptanceView }) => (
  <p className="max-w-[64ch] text-ink-soft">
    Who asked for something can look at what was done, on a page of their own without an account,
    and say that they accept it or what is missing.{" "}
    {view.inProcess
      ? "What the process hands over to be accepted stands here by itself."
      : "No move of this process waits for that yet: in Design, let a move happen by itself when those it is shown to accept it, or demand it."}{" "}
    Anything else is shown from its own page, under Acceptance.
  </p>
);
