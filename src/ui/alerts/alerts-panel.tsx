"use client";
import Link from "next/link";
import { useRef, useState, type KeyboardEvent } from "react";
import type { AlertShelf } from "@/core/alerts/alert";
import { counted } from "@/core/formats/counted";
import { Button, TextButton } from "@/ui/kit/button";
import { Tabs } from "@/ui/kit/tabs";
import { problemOf } from "@/ui/kit/request";
import { AlertGroupLines } from "./alert-group";
import { useAlerts } from "./use-alerts";

const SHELF_WORDS: Record<AlertShelf, string> = {
  open: "To look at",
  later: "Put off",
  done: "Done",
};

const NOTHING: Record<AlertShelf, string> = {
  open: "Nothing waits to be read. You hear here when somebody names or asks you, gives you an item, or something of yours moves.",
  later: "Nothing is put off.",
  done: "Nothing is done yet.",
};

/** The alerts of a person, by item, on three shelves. */
export function AlertsPanel({ projectKey, onLeave }: { projectKey: string; onLeave: () => void }) {
  const [shelf, setShelf] = useState<AlertShelf>("open");
  return (
    <>
      <div className="flex items-baseline gap-3">
        <h2 className="flex-1 text-[15px]">Alerts</h2>
        <Link href="/account/alerts" className="link text-[13px]" onClick={onLeave}>
          How I hear
        </Link>
      </div>
      <Tabs
        label="Which alerts"
        value={shelf}
        onChange={setShelf}
        className="mt-1"
        panelClass="min-h-0"
        tabs={(Object.keys(SHELF_WORDS) as AlertShelf[]).map((value) => ({
          value,
          label: SHELF_WORDS[value],
          panel: <Shelf shelf={value} projectKey={projectKey} onLeave={onLeave} />,
        }))}
      />
      <p className="alert-keys">
        <kbd>↑</kbd> <kbd>↓</kbd> go · <kbd>Enter</kbd> opens · <kbd>r</kbd> read or new ·{" "}
        <kbd>l</kbd> later · <kbd>d</kbd> done
      </p>
    </>
  );
}

function Shelf({
  shelf,
  projectKey,
  onLeave,
}: {
  shelf: AlertShelf;
  projectKey: string;
  onLeave: () => void;
}) {
  const { groups, query, act } = useAlerts(shelf);
  const list = useRef<HTMLDivElement>(null);
  if (query.error)
    return (
      <p role="alert" className="py-3">
        {problemOf(query.error).sentence}{" "}
        <TextButton onClick={() => void query.refetch()}>Try again</TextButton>
      </p>
    );
  if (!groups) return <p className="py-3 text-ink-soft">One moment…</p>;
  const all = groups.flatMap((group) => group.alerts);
  const fresh = all.filter(({ standing }) => standing === "new");
  return (
    <div ref={list} onKeyDown={(event) => walk(event, list.current)}>
      {fresh.length > 1 && (
        <p className="py-1 text-right text-[13px]">
          <TextButton
            onClick={() =>
              void act({ kind: "read" }, `${counted(fresh.length, "alert")} read.`, {
                kind: "unread",
                ids: fresh.map(({ id }) => id),
              })
            }
          >
            All are read
          </TextButton>
        </p>
      )}
      {groups.length === 0 && <p className="py-4 text-ink-soft">{NOTHING[shelf]}</p>}
      {groups.map((group) => (
        <AlertGroupLines
          key={group.itemKey}
          group={group}
          inProject={group.projectKey === projectKey}
          act={act}
          onLeave={onLeave}
        />
      ))}
      {query.hasNextPage && (
        <Button
          small
          look="quiet"
          className="my-2"
          disabled={query.isFetchingNextPage}
          onClick={() => void query.fetchNextPage()}
        >
          Show earlier ones
        </Button>
      )}
    </div>
  );
}

/** Arrow keys go from one alert to the next. */
function walk(event: KeyboardEvent, list: HTMLElement | null): void {
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
  if (step === undefined || !list) return;
  const alerts = [...list.querySelectorAll<HTMLElement>("[data-alert]")];
  const at = alerts.findIndex((one) => one.contains(document.activeElement));
  const next = alerts[Math.min(alerts.length - 1, Math.max(0, at + step))];
  if (!next) return;
  event.preventDefault();
  next.focus();
  next.scrollIntoView({ block: "nearest" });
}
