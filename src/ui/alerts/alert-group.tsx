"use client";
import { useRouter } from "next/navigation";
import { Check, Clock, RotateCcw } from "lucide-react";
import { useState, type KeyboardEvent } from "react";
import type { AlertGroup, AlertLine, AlertView } from "@/core/alerts/alert";
import { laterChoices } from "@/core/alerts/later";
import type { AlertAct } from "@/core/alerts/request";
import { counted } from "@/core/formats/counted";
import { Button, TextButton } from "@/ui/kit/button";
import { Menu, MenuItem } from "@/ui/kit/menu";
import { usePanel } from "@/ui/kit/panel-context";
import { ago } from "@/ui/kit/time";
import { commentPlace } from "@/ui/talk/use-named-comment";
import { TypeGlyph } from "@/ui/kit/type-glyph";

type Act = (body: AlertAct, done?: string, back?: AlertAct) => Promise<void>;

/** An item with what one is told of it. */
export function AlertGroupLines({
  group,
  inProject,
  act,
  onLeave,
}: {
  group: AlertGroup;
  /** Whether the item is of the project that is open, so that it opens beside the page. */
  inProject: boolean;
  act: Act;
  onLeave: () => void;
}) {
  const { openItem, openBehind } = usePanel();
  const router = useRouter();
  const open = (alert: AlertView, comment: string | null) => {
    if (alert.standing === "new") void act({ kind: "read", ids: [alert.id] });
    const hash = comment === null ? "" : `#${commentPlace(comment)}`;
    onLeave();
    if (!inProject) return router.push(`/p/${group.projectKey}/items/${group.itemKey}${hash}`);
    const several = alert.lines.find(({ ids }) => ids.length > 1);
    if (several) return openBehind({ title: several.words, ids: several.ids });
    openItem(group.itemKey, comment === null ? undefined : commentPlace(comment));
  };
  return (
    <section className="alert-group" aria-label={`${group.itemKey} ${group.title}`}>
      <h3>
        <TypeGlyph typeId={group.typeId} size={15} />
        <span className="key">{group.itemKey}</span>
        <span className="min-w-0 flex-1 truncate font-semibold">{group.title}</span>
        <span className="shrink-0 text-[12.5px] text-ink-soft">{group.stateName}</span>
      </h3>
      <ul>
        {group.alerts.map((alert) => (
          <OneAlert key={alert.id} alert={alert} act={act} onOpen={open} />
        ))}
      </ul>
    </section>
  );
}

function OneAlert({
  alert,
  act,
  onOpen,
}: {
  alert: AlertView;
  act: Act;
  onOpen: (alert: AlertView, comment: string | null) => void;
}) {
  const [now] = useState(() => Date.now());
  const { id, standing } = alert;
  const isNew = standing === "new";
  const comment = alert.lines.findLast(({ commentId }) => commentId !== null)?.commentId ?? null;
  const turn = () => act({ kind: isNew ? "read" : "unread", ids: [id] });
  const end = () =>
    standing === "done" || standing === "later"
      ? act({ kind: "bring back", ids: [id] }, "It is among those to look at.")
      : act({ kind: "done", ids: [id] }, "Done.", {
          kind: isNew ? "unread" : "bring back",
          ids: [id],
        });
  const later = (until: number, words: string) =>
    act({ kind: "later", ids: [id], until }, `Put off ${words}.`, { kind: "unread", ids: [id] });
  const keys = (event: KeyboardEvent) => {
    if (event.target !== event.currentTarget || event.ctrlKey || event.metaKey) return;
    const [, tomorrow] = laterChoices(new Date());
    const does: Record<string, () => unknown> = {
      Enter: () => onOpen(alert, comment),
      r: turn,
      d: end,
      l: () => later(tomorrow.until, tomorrow.words),
    };
    if (!does[event.key]) return;
    event.preventDefault();
    void does[event.key]();
  };
  return (
    <li
      className={`alert-line ${isNew ? "alert-new" : ""}`}
      data-alert={id}
      tabIndex={0}
      onKeyDown={keys}
      aria-label={`${isNew ? "New: " : ""}${alert.lines.map(sentenceOf).join("; ")}`}
    >
      <div className="min-w-0 flex-1">
        {alert.lines.map((line, i) => (
          <Line key={i} line={line} onOpen={() => onOpen(alert, line.commentId)} />
        ))}
        <p className="text-[12.5px] text-ink-soft">
          {alert.why.join(", ")} · {ago(alert.lastAt, Math.max(now, alert.lastAt))}
          {alert.laterUntil !== null && standing === "later" && " · put off"}
        </p>
      </div>
      <span className="alert-acts">
        <Menu
          align="end"
          trigger={
            <Button small look="quiet" aria-label="Put off" title="Put off (l: until tomorrow)">
              <Clock size={14} aria-hidden="true" />
            </Button>
          }
        >
          {laterChoices(new Date()).map(({ words, until }) => (
            <MenuItem key={words} onSelect={() => void later(until, words)}>
              Put off {words}
            </MenuItem>
          ))}
        </Menu>
        <Button
          small
          look="quiet"
          aria-label={standing === "done" || standing === "later" ? "Bring back" : "Done"}
          title={standing === "done" || standing === "later" ? "Bring back (d)" : "Done (d)"}
          onClick={() => void end()}
        >
          {standing === "done" || standing === "later" ? (
            <RotateCcw size={14} aria-hidden="true" />
          ) : (
            <Check size={14} aria-hidden="true" />
          )}
        </Button>
      </span>
    </li>
  );
}

const sentenceOf = ({ who, words }: AlertLine) => (who === null ? words : `${who} ${words}`);

function Line({ line, onOpen }: { line: AlertLine; onOpen: () => void }) {
  const { who, words, said, ids } = line;
  return (
    <>
      <TextButton className="alert-words" onClick={onOpen}>
        {who !== null && <b>{who}</b>} {words}
        {ids.length > 1 && ` (${counted(ids.length, "item")})`}
      </TextButton>
      {said !== null && <q className="alert-said">{said}</q>}
    </>
  );
}
