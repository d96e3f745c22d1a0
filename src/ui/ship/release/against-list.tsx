"use client";
import { useState } from "react";
import { AGAINST, type AgainstKind } from "@/core/ship/release/readiness";
import type { ReadinessRow } from "@/core/ship/release/release-page";
import { Button, TextButton } from "@/ui/kit/button";
import { ItemOfRelease } from "./item-of-release";
import { KindFigures } from "./kind-figures";
import type { ReleasePageHandle } from "./use-release-page";

/** So many stand there before the others are asked for. */
const SHOWN = 12;

/** What stands against each item, the gravest first; a press on a reason shows those alone. */
export function AgainstList({ handle }: { handle: ReleasePageHandle }) {
  const { view } = handle;
  const [only, setOnly] = useState<AgainstKind | null>(null);
  const [all, setAll] = useState(false);
  const has = (kind: AgainstKind) => (row: ReadinessRow) =>
    row.against.some((one) => one.kind === kind);
  const kinds = AGAINST.flatMap((kind) => {
    const n = view.rows.filter(has(kind)).length;
    return n > 0 && kind !== "no words" ? [{ kind, n }] : [];
  });
  const rows = only === null ? view.rows : view.rows.filter(has(only));
  // What is out was ready; only what failed or misses something since is worth a word.
  if (view.release?.releasedAt != null && view.rows.length === 0) return null;
  const shown = all ? rows : rows.slice(0, SHOWN);
  return (
    <section aria-label="What stands against it" className="mb-5">
      <div className="mb-1 flex flex-wrap items-baseline gap-x-3">
        <h2 className="text-[15px]">
          What stands against it{" "}
          <span className="font-display text-alarm tabular-nums">{view.rows.length}</span>
        </h2>
        <KindFigures figures={kinds} words={KIND_WORDS} only={only} onOnly={setOnly} />
      </div>
      {view.rows.length === 0 ? (
        <p className="text-ink-soft">Nothing: {view.ready} can go out as they are.</p>
      ) : (
        <ul className="against-rows">
          {shown.map((row) => (
            <AgainstRow key={row.id} row={row} handle={handle} />
          ))}
        </ul>
      )}
      {rows.length > shown.length && (
        <TextButton className="mt-1 text-[13px]" onClick={() => setAll(true)}>
          {rows.length - shown.length} more
        </TextButton>
      )}
      {view.unseen > 0 && (
        <p className="text-[12.5px] text-ink-soft">
          and {view.unseen} in it that you may not see; the counts have them too
        </p>
      )}
    </section>
  );
}

const KIND_WORDS: Record<AgainstKind, string> = {
  blocked: "blocked",
  failed: "failed",
  "something missing": "miss something",
  "not begun": "not begun",
  nobody: "without anybody",
  open: "being worked on",
  "not reviewed": "wait for review",
  "not merged": "not merged",
  "not on acceptance": "not on acceptance",
  "not accepted": "not accepted",
  "not tested": "not tested",
  "no case": "without a test",
  stale: "changed since tested",
  "no words": "without words",
};

function AgainstRow({ row, handle }: { row: ReadinessRow; handle: ReleasePageHandle }) {
  const { next, rights, release } = handle.view;
  const said = row.against.filter(({ kind }) => kind !== "no words");
  const mayMove = rights.plan && next !== null && release!.releasedAt === null;
  return (
    <li data-key={row.key}>
      <ItemOfRelease row={row} />
      <span className="min-w-0 text-[12.5px]">
        <b className="text-alarm">{said[0]?.words}</b>
        {said.length > 1 && (
          <span className="text-ink-soft">
            {" · "}
            {said
              .slice(1)
              .map(({ words }) => words)
              .join(" · ")}
          </span>
        )}
      </span>
      {mayMove && row.stateKind !== "finished" ? (
        <Button
          small
          aria-label={`Next release for ${row.key}`}
          title={`To ${next.name}`}
          onClick={() => void handle.put(row, next)}
        >
          Next release
        </Button>
      ) : (
        <span />
      )}
    </li>
  );
}
