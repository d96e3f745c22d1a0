"use client";
import { TextButton } from "@/ui/kit/button";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Bell } from "lucide-react";
import Link from "next/link";
import { Popover } from "@/ui/kit/popover";
import { useState } from "react";
import { usePanel } from "@/ui/kit/panel-context";
import { counted } from "@/core/formats/counted";
import { ago } from "@/ui/kit/time";
import { alertsContract } from "@/core/alerts/contract";
import { flowContract } from "@/core/flow/contract";
import { queryOf, ask, keyOf } from "@/ui/kit/request";

/**
 * What the process told me: how many are new, and the list of them. Opening the list does not mark
 * anything.
 */
export function Alerts({ projectKey, unread }: { projectKey: string; unread: number }) {
  const client = useQueryClient();
  const { openItem, openBehind } = usePanel();
  const [open, setOpen] = useState(false);
  const [now, setNow] = useState(0);
  const { data: notices } = useQuery({
    ...queryOf(alertsContract.read, {}),
    enabled: open,
    refetchOnMount: "always",
  });
  const mark = async (ids: number[]) => {
    if (ids.length === 0) return;
    await ask(alertsContract.mark, { body: { ids } });
    await Promise.all([
      client.invalidateQueries({ queryKey: keyOf(alertsContract.read) }),
      client.invalidateQueries({
        queryKey: keyOf(flowContract.summary, { params: { key: projectKey } }),
      }),
    ]);
  };
  const fresh = notices?.filter((n) => !n.read) ?? [];
  return (
    <Popover
      open={open}
      onOpenChange={(next) => {
        setOpen(next);
        setNow(Date.now());
        if (next) void client.invalidateQueries({ queryKey: keyOf(alertsContract.read) });
      }}
      label="Alerts"
      align="end"
      className="max-h-[70vh] w-[400px] overflow-y-auto"
      trigger={
        <button
          type="button"
          className="relative inline-flex h-8 w-8 items-center justify-center rounded-[3px] text-ink-soft hover:text-ink"
          aria-label={unread > 0 ? `Alerts, ${unread} new` : "Alerts"}
        >
          <Bell size={17} aria-hidden="true" />
          {unread > 0 && (
            <span className="absolute -right-1 -top-0.5 min-w-4 rounded-[3px] bg-signal px-1 text-center font-display text-[11px] font-bold leading-4 text-ink">
              {unread}
            </span>
          )}
        </button>
      }
    >
      <div className="flex items-center gap-2">
        <h2 className="flex-1 text-[15px]">Alerts</h2>
        {fresh.length > 0 && (
          <TextButton className="text-[13px]" onClick={() => void mark(fresh.map((n) => n.id))}>
            Mark all as read
          </TextButton>
        )}
      </div>
      {!notices && <p className="py-3 text-ink-soft">One moment…</p>}
      {notices?.length === 0 && (
        <p className="py-3 text-ink-soft">
          Nothing yet. A move of your process can tell people: choose it in Design, then “tell
          people”.
        </p>
      )}
      <ul>
        {notices?.map((n) => (
          <li key={n.id} className={`border-t border-line py-1.5 ${n.read ? "text-ink-soft" : ""}`}>
            <p className={n.read ? "" : "font-semibold"}>{n.text}</p>
            <p className="flex items-center gap-2 text-[13px]">
              {n.ids.length > 1 && n.projectKey === projectKey ? (
                <TextButton
                  className="min-w-0 flex-1 truncate text-left"
                  onClick={() => {
                    openBehind({ title: n.text, ids: n.ids });
                    setOpen(false);
                    if (!n.read) void mark([n.id]);
                  }}
                >
                  {counted(n.ids.length, "item")}, {n.itemKey} first
                </TextButton>
              ) : n.projectKey === projectKey ? (
                <TextButton
                  className="min-w-0 flex-1 truncate text-left"
                  onClick={() => {
                    openItem(n.itemKey);
                    setOpen(false);
                    if (!n.read) void mark([n.id]);
                  }}
                >
                  {n.itemKey} {n.title}
                </TextButton>
              ) : (
                <Link
                  className="link min-w-0 flex-1 truncate"
                  href={`/p/${n.projectKey}/items/${n.itemKey}`}
                  onClick={() => !n.read && void mark([n.id])}
                >
                  {n.itemKey} {n.title}
                </Link>
              )}
              <span className="shrink-0 text-ink-soft">{ago(n.at, Math.max(now, n.at))}</span>
            </p>
          </li>
        ))}
      </ul>
    </Popover>
  );
}
