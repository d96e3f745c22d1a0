"use client";
import { useState } from "react";
import type { Day } from "@/core/calendar/month";
import { LARGEST_CALENDAR } from "@/core/calendar/largest-calendar";
import type { NamedDays } from "@/core/calendar/named-days";
import { counted } from "@/core/formats/counted";
import { FilePick } from "./file-pick";

/** Whole days out of a calendar file that somebody chooses; what of it was not taken is said. */
export function DaysFromFile({
  label,
  window,
  onDays,
}: {
  label: string;
  /** Which days are taken; both belong to it. */
  window: () => { from: Day; to: Day };
  /** @returns how many of them are new */
  onDays: (days: NamedDays[]) => number;
}) {
  const [said, setSaid] = useState<string[]>([]);
  const read = async ([file]: File[]) => {
    if (!file) return;
    if (file.size > LARGEST_CALENDAR)
      return setSaid([`${file.name} is larger than 1 MB. Export fewer years of it.`]);
    try {
      const { readDays } = await import("@/core/calendar/ics-read");
      const { days, left } = readDays(await file.text(), window());
      const fresh = onDays(days);
      setSaid([takenWords(file.name, fresh, days.length), ...left]);
    } catch (error) {
      setSaid([error instanceof RangeError ? error.message : "The file could not be read."]);
    }
  };
  return (
    <div className="mt-2 flex flex-col gap-1">
      <FilePick
        label={label}
        words="From a calendar file (.ics)"
        accept=".ics,text/calendar"
        names={false}
        onFiles={(files) => void read(files)}
      />
      {said.length > 0 && (
        <ul role="status" className="text-[12.5px] text-ink-soft">
          {said.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
      )}
    </div>
  );
}

function takenWords(name: string, fresh: number, all: number): string {
  if (all === 0) return `${name} has no whole days in the time that counts here.`;
  const known = all - fresh;
  const there = known > 0 ? `, ${known} ${known === 1 ? "was" : "were"} there already` : "";
  return `${counted(fresh, "day or stretch of days", "days or stretches of days")} of ${name}${there}. Not stored yet.`;
}
