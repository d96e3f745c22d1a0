"use client";
import { Bell } from "lucide-react";
import { useState } from "react";
import { Popover } from "@/ui/kit/popover";
import { AlertsPanel } from "./alerts-panel";
import { useAlertCount } from "./use-alerts";

/** What I am told: how much of it is new, and the list. Opening the list marks nothing. */
export function AlertsBell({ projectKey, initial }: { projectKey: string; initial: number }) {
  const fresh = useAlertCount(initial);
  const [open, setOpen] = useState(false);
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label="Alerts"
      align="end"
      className="alerts-sheet"
      onTakeFocus={(event) => {
        event.preventDefault();
        const sheet = document.querySelector<HTMLElement>(".alerts-sheet");
        (sheet?.querySelector<HTMLElement>("[data-alert]") ?? sheet)?.focus();
      }}
      trigger={
        <button
          type="button"
          className="relative inline-flex h-8 w-8 items-center justify-center rounded-[3px] text-ink-soft hover:text-ink"
          aria-label={fresh > 0 ? `Alerts, ${fresh} new` : "Alerts"}
        >
          <Bell size={17} aria-hidden="true" />
          {fresh > 0 && (
            <span className="absolute -right-1 -top-0.5 min-w-4 rounded-[3px] bg-signal px-1 text-center font-display text-[11px] font-bold leading-4 text-on-signal">
              {fresh > 99 ? "99+" : fresh}
            </span>
          )}
        </button>
      }
    >
      <AlertsPanel projectKey={projectKey} onLeave={() => setOpen(false)} />
    </Popover>
  );
}
