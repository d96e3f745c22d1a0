"use client";
import { useState } from "react";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { counted } from "@/core/formats/counted";
import { ITEM_FIELDS, type EditableFields } from "@/core/item/fields";
import { amountWords } from "@/core/time/amount";
import { againstFirst, type TimeSums } from "@/core/time/sums";
import { ItemFieldEditor } from "@/ui/item/field-editor";
import type { ItemHandle } from "@/ui/item/use-item";
import { Button, TextButton } from "@/ui/kit/button";
import { tellProblem } from "@/ui/kit/notice";
import { shortDate } from "@/ui/kit/time";
import { RecordForm } from "./record-form";
import { useRecording } from "./use-recording";

/** So many entries stand there before the others are asked for. */
const SHOWN = 4;

/** What an item was thought to take, has taken and still takes, and the time recorded on it. */
export function ItemTimeSection({ handle }: { handle: ItemHandle }) {
  const { view, edit, reload } = handle;
  const { time, item } = view;
  const { record } = useRecording(
    { itemId: item.id, key: view.key, left: item.remainingHours },
    reload,
  );
  const [recording, setRecording] = useState(false);
  const may = view.rights.edit && view.withdrawn === null;
  const store = (changes: Partial<EditableFields>) =>
    edit(changes).catch((error) => {
      tellProblem(error);
      void reload();
    });
  const today = isoDate(dayNumber(view.now, view.project.zone));
  return (
    <section aria-label="Time">
      <h3 className="mb-1 flex items-baseline gap-2 text-[13px]">
        Time
        <span className="figures font-normal text-ink-soft">
          {amountWords(item.spentMinutes)} spent
        </span>
      </h3>
      <div className="grid grid-cols-[auto_1fr_auto_1fr] gap-x-3">
        {(["firstEstimate", "remainingHours"] as const).map((field) => (
          <ItemFieldEditor
            key={field}
            field={ITEM_FIELDS[field]}
            value={item[field]}
            options={[]}
            projectKey={view.project.key}
            locked={!may}
            onStore={(value) => store({ [field]: value })}
          />
        ))}
      </div>
      <TimeBar sums={time.own} />
      {time.all && <BelowSums sums={time.all} />}
      <Entries handle={handle} may={may} today={today} />
      {may &&
        (recording ? (
          <RecordForm
            was={null}
            left={item.remainingHours}
            today={today}
            hoursADay={time.hoursADay}
            onRecord={record}
            onDone={() => setRecording(false)}
          />
        ) : (
          <Button small onClick={() => setRecording(true)} className="mt-1">
            Record time
          </Button>
        ))}
    </section>
  );
}

/** What was spent and what is left, against what it was first thought to take. */
function TimeBar({ sums }: { sums: TimeSums }) {
  const { first, spentMinutes, left } = sums;
  const comes = spentMinutes / 60 + (left ?? 0);
  const whole = Math.max(first ?? 0, comes);
  if (whole === 0) return null;
  const part = (hours: number) => `${(100 * hours) / whole}%`;
  const share = againstFirst(sums);
  return (
    <div className="time-line">
      <span className="time-bar" aria-hidden="true">
        <i data-part="spent" style={{ width: part(spentMinutes / 60) }} />
        <i data-part="left" style={{ width: part(left ?? 0) }} />
        {first !== null && <b style={{ left: part(first) }} />}
      </span>
      {share !== null && (
        <span className={share > 100 ? "text-alarm" : "text-ink-soft"}>
          comes to {share} % of the first estimate
        </span>
      )}
    </div>
  );
}

function BelowSums({ sums }: { sums: TimeSums & { items: number } }) {
  const { first, spentMinutes, left, silent, items } = sums;
  return (
    <p className="text-[12.5px] text-ink-soft">
      With {counted(items, "item")} under it:{" "}
      {first !== null && <>first {amountWords(first * 60)} · </>}
      {amountWords(spentMinutes)} spent
      {left !== null && <> · {amountWords(left * 60)} left</>}
      {silent > 0 && <> · {counted(silent, "open item")} say nothing of it</>}
    </p>
  );
}

function Entries({ handle, may, today }: { handle: ItemHandle; may: boolean; today: string }) {
  const { view, reload } = handle;
  const { entries, hoursADay } = view.time;
  const [all, setAll] = useState(false);
  const [changing, setChanging] = useState<string | null>(null);
  const left = view.item.remainingHours;
  const { change, remove } = useRecording({ itemId: view.item.id, key: view.key, left }, reload);
  if (entries.length === 0) return null;
  return (
    <>
      <ul className="time-entries">
        {entries.slice(0, all ? undefined : SHOWN).map((entry) =>
          entry.entryId === changing ? (
            <li key={entry.entryId}>
              <RecordForm
                was={entry}
                left={left}
                today={today}
                hoursADay={hoursADay}
                onRecord={(recorded) => change(entry, recorded)}
                onDone={() => setChanging(null)}
              />
            </li>
          ) : (
            <li key={entry.entryId}>
              <span className="figures">{shortDate(entry.on)}</span>
              <b className="figures">{amountWords(entry.minutes)}</b>
              <span className="min-w-0 truncate" title={entry.note}>
                {entry.who}
                {entry.note && <span className="text-ink-soft"> · {entry.note}</span>}
              </span>
              {may && entry.personId === view.me && (
                <span className="flex gap-2">
                  <TextButton
                    aria-label={`Change ${amountWords(entry.minutes)} of ${shortDate(entry.on)}`}
                    onClick={() => setChanging(entry.entryId)}
                  >
                    Change
                  </TextButton>
                  <TextButton
                    aria-label={`Remove ${amountWords(entry.minutes)} of ${shortDate(entry.on)}`}
                    onClick={() => void remove(entry).catch(() => undefined)}
                  >
                    Remove
                  </TextButton>
                </span>
              )}
            </li>
          ),
        )}
      </ul>
      {entries.length > SHOWN && (
        <TextButton onClick={() => setAll(!all)}>
          {all ? "Only the latest" : `All ${entries.length}`}
        </TextButton>
      )}
    </>
  );
}
