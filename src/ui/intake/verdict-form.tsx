"use client";
import { useEffect, useRef, useState, type FormEvent, type ReactNode } from "react";
import type { Found } from "@/core/intake/placement";
import type { Acceptance, Verdict, VerdictKind } from "@/core/intake/verdict";
import { CLASSES_OF_SERVICE, ORIGINS, PRIORITIES, SEVERITIES } from "@/core/item/fields";
import { problemOf, type Problem } from "@/ui/kit/request";
import type { DeskView, ReportView } from "./types";

export const VERDICT_BUTTONS: { kind: VerdictKind; label: string; key: string; does: string }[] = [
  { kind: "accept", label: "Accept", key: "a", does: "Accept into backlog" },
  { kind: "merge", label: "Merge", key: "m", does: "Merge as duplicate" },
  { kind: "ask", label: "Ask", key: "q", does: "Send the question" },
  { kind: "park", label: "Park", key: "p", does: "Park until that day" },
  { kind: "decline", label: "Decline", key: "d", does: "Decline with this reason" },
];

const DAY_MS = 86_400_000;

/** What a verdict needs, asked for on the desk itself; what was typed stays until the verdict is stored. */
export function VerdictForm({ kind, itemId, desk, view, onVerdict, onCancel }: {
  kind: VerdictKind;
  itemId?: string;
  desk: DeskView;
  view: ReportView;
  /** @throws Problem */
  onVerdict: (verdict: Verdict) => Promise<void>;
  onCancel: () => void;
}) {
  const [acceptance, setAcceptance] = useState<Acceptance>({
    title: view.report.title,
    typeId: "bug",
    severity: "moderate",
    priority: "normal",
    classOfService: "standard",
    origin: "unplanned",
    teamId: desk.teams[0]?.id ?? null,
    assigneeId: null,
    place: { at: "bottom" },
    found: null,
  });
  const alike = view.similar;
  const [target, setTarget] = useState(itemId ?? alike[0]?.id ?? "");
  const [text, setText] = useState("");
  const [until, setUntil] = useState(() => new Date(desk.now + 7 * DAY_MS).toISOString().slice(0, 10));
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const form = useRef<HTMLFormElement>(null);
  useEffect(() => form.current?.querySelector<HTMLElement>("input,textarea,select")?.focus(), []);

  const verdict = (): Verdict => {
    if (kind === "accept") return { kind, acceptance };
    if (kind === "merge") return { kind, itemId: target };
    if (kind === "ask") return { kind, question: text };
    if (kind === "park") return { kind, until };
    return { kind, reason: text };
  };
  const give = async (event?: FormEvent) => {
    event?.preventDefault();
    if (busy || !form.current?.reportValidity()) return;
    setBusy(true);
    try {
      await onVerdict(verdict());
    } catch (error) {
      setProblem(problemOf(error));
      setBusy(false);
    }
  };
  return (
    <form
      ref={form}
      aria-label={VERDICT_BUTTONS.find((b) => b.kind === kind)!.label}
      onSubmit={(e) => void give(e)}
      onKeyDown={(e) => {
        if (e.key === "Escape") {
          e.preventDefault();
          onCancel();
        }
        if (e.key === "Enter" && (e.ctrlKey || e.metaKey)) void give();
      }}
      className="flex flex-col gap-3 border-b border-line bg-sheet px-5 py-3"
    >
      {kind === "accept" && <AcceptFields desk={desk} value={acceptance} onChange={setAcceptance} />}
      {kind === "merge" &&
        (alike.length > 0 ? (
          <Labelled label="It tells of the same thing as">
            <select className="field" required value={target} onChange={(e) => setTarget(e.target.value)}>
              {alike.map((s) => (
                <option key={s.id} value={s.id}>
                  {s.key} {s.title} ({s.stateName})
                </option>
              ))}
            </select>
          </Labelled>
        ) : (
          <p className="text-ink-soft">No item looks like it, so there is nothing to merge it into. If it belongs to another report in the queue, accept that one first.</p>
        ))}
      {kind === "ask" && (
        <Labelled label="What do you need to know? The requester reads this on their page.">
          <textarea className="field" required maxLength={5_000} rows={3} value={text} onChange={(e) => setText(e.target.value)} />
        </Labelled>
      )}
      {kind === "park" && (
        <Labelled label="Look at it again on">
          <input className="field !w-48" type="date" required value={until} onChange={(e) => setUntil(e.target.value)} />
        </Labelled>
      )}
      {kind === "decline" && (
        <Labelled label="Why not? The requester reads this reason.">
          <textarea className="field" required maxLength={2_000} rows={3} value={text} onChange={(e) => setText(e.target.value)} />
        </Labelled>
      )}
      {problem && (
        <p role="alert" className="text-[13px] text-alarm">
          <b>{problem.sentence}</b> {problem.help}
        </p>
      )}
      <div className="flex items-center justify-end gap-2">
        <button type="button" className="button button-quiet" onClick={onCancel}>
          Back to reading
        </button>
        <button type="submit" disabled={busy || (kind === "merge" && !target)} className="button button-accent">
          {VERDICT_BUTTONS.find((b) => b.kind === kind)!.does}
        </button>
      </div>
    </form>
  );
}

function Labelled({ label, children }: { label: string; children: ReactNode }) {
  return (
    <label className="flex flex-col gap-1 text-[12.5px] font-semibold">
      {label}
      {children}
    </label>
  );
}

function AcceptFields({ desk, value, onChange }: { desk: DeskView; value: Acceptance; onChange: (value: Acceptance) => void }) {
  const set = (change: Partial<Acceptance>) => onChange({ ...value, ...change });
  const choice = (label: string, current: string, options: [value: string, label: string][], change: (v: string) => Partial<Acceptance>) => (
    <Labelled label={label}>
      <select className="field" value={current} onChange={(e) => set(change(e.target.value))}>
        {options.map(([v, l]) => (
          <option key={v} value={v}>
            {l}
          </option>
        ))}
      </select>
    </Labelled>
  );
  const same = (values: readonly string[]) => values.map((v) => [v, v] as [string, string]);
  const place = value.place.at === "below" ? value.place.itemId : value.place.at;
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-2 lg:grid-cols-4">
      <div className="col-span-full">
        <Labelled label="Title of the item">
          <input className="field" required maxLength={300} value={value.title} onChange={(e) => set({ title: e.target.value })} />
        </Labelled>
      </div>
      {value.typeId === "bug" && <FoundFields desk={desk} value={value} onChange={onChange} />}
      {choice("Type", value.typeId, desk.types.map((t) => [t.id, t.name]), (typeId) => ({ typeId }))}
      {choice("Severity", value.severity ?? "", [...same(SEVERITIES), ["", "not set"]], (v) => ({ severity: (v || null) as Acceptance["severity"] }))}
      {choice("Priority", value.priority, same(PRIORITIES), (v) => ({ priority: v as Acceptance["priority"] }))}
      {choice("Class of service", value.classOfService, same(CLASSES_OF_SERVICE), (v) => ({ classOfService: v as Acceptance["classOfService"] }))}
      {choice("Origin", value.origin, same(ORIGINS), (v) => ({ origin: v as Acceptance["origin"] }))}
      {choice("Team", value.teamId ?? "", [["", "no team"], ...desk.teams.map((t) => [t.id, t.name] as [string, string])], (v) => ({ teamId: v || null }))}
      {choice("Assignee", value.assigneeId ?? "", [["", "nobody yet"], ...desk.people.map((p) => [p.id, `${p.name} (has ${p.load})`] as [string, string])], (v) => ({ assigneeId: v || null }))}
      {choice(
        "Place in the backlog",
        place,
        [["top", "at the top"], ["bottom", "at the bottom"], ...desk.backlogTop.map((b) => [b.id, `below ${b.key} ${b.title}`] as [string, string])],
        (v) => ({ place: v === "top" || v === "bottom" ? { at: v } : { at: "below", itemId: v } }),
      )}
    </div>
  );
}

const FOUND: { where: Found["where"] | "elsewhere"; label: string; means: string }[] = [
  { where: "elsewhere", label: "nowhere in particular", means: "A bug of its own in the backlog, as you fill it in below." },
  { where: "in work", label: "in work that is still being built", means: "A task under that item: it adds to what remains there, and is no interruption." },
  { where: "in finished work", label: "in finished work", means: "A bug of its own in the backlog, linked to where it came from, not sized until the team sizes it." },
  { where: "fix now", label: "and must be fixed now", means: "On the board at once, expedite and unplanned, estimated 0 so that velocity stays true." },
];

/** One question that puts a bug in its right place. */
function FoundFields({ desk, value, onChange }: { desk: DeskView; value: Acceptance; onChange: (value: Acceptance) => void }) {
  const { found } = value;
  const where = found?.where ?? "elsewhere";
  const set = (next: Found | null) => onChange({ ...value, found: next, ...(next?.where === "fix now" ? { classOfService: "expedite" as const, origin: "unplanned" as const } : {}) });
  const choose = (next: (typeof FOUND)[number]["where"]) => {
    if (next === "elsewhere") set(null);
    else if (next === "in work") set({ where: next, itemId: desk.inWork[0]?.id ?? "", hours: 2, retestHours: 0.5 });
    else if (next === "in finished work") set({ where: next, itemId: null });
    else set({ where: next });
  };
  return (
    <fieldset className="col-span-full border-l-[3px] border-accent pl-3">
      <legend className="float-left mr-2 text-[12.5px] font-semibold">It was found</legend>
      <div className="flex flex-wrap gap-x-4">
        {FOUND.map((f) => (
          <label key={f.where} className="inline-flex items-center gap-1.5 text-[13px]">
            <input type="radio" name="found" className="accent-(--accent)" checked={where === f.where} onChange={() => choose(f.where)} />
            {f.label}
          </label>
        ))}
      </div>
      <p className="clear-both text-[12.5px] text-ink-soft">{FOUND.find((f) => f.where === where)!.means}</p>
      {found?.where === "in work" && (
        <div className="mt-1 grid grid-cols-[minmax(0,1fr)_110px_130px] gap-3">
          <Labelled label="In which item">
            <select className="field" required value={found.itemId} onChange={(e) => set({ ...found, itemId: e.target.value })}>
              {desk.inWork.map((i) => (
                <option key={i.id} value={i.id}>
                  {i.key} {i.title}
                </option>
              ))}
            </select>
          </Labelled>
          <Labelled label="Hours to mend it">
            <input className="field" type="number" min={0} step="any" required value={found.hours} onChange={(e) => set({ ...found, hours: Number(e.target.value) })} />
          </Labelled>
          <Labelled label="Hours to test again">
            <input className="field" type="number" min={0} step="any" required value={found.retestHours} onChange={(e) => set({ ...found, retestHours: Number(e.target.value) })} />
          </Labelled>
        </div>
      )}
      {found?.where === "in finished work" && (
        <Labelled label="It came from">
          <select className="field" value={found.itemId ?? ""} onChange={(e) => set({ ...found, itemId: e.target.value || null })}>
            <option value="">nobody knows</option>
            {desk.finishedLately.map((i) => (
              <option key={i.id} value={i.id}>
                {i.key} {i.title}
              </option>
            ))}
          </select>
        </Labelled>
      )}
    </fieldset>
  );
}
