"use client";
import type { DeskView } from "@/core/intake/desk-view";
import type { Acceptance, Found } from "@/core/intake/acceptance";
import { Labelled } from "./labelled";

const FOUND: { where: Found["where"] | "elsewhere"; label: string; means: string }[] = [
  {
    where: "elsewhere",
    label: "nowhere in particular",
    means: "A bug of its own in the backlog, as you fill it in below.",
  },
  {
    where: "in work",
    label: "in work that is still being built",
    means: "A task under that item: it adds to what remains there, and is no interruption.",
  },
  {
    where: "in finished work",
    label: "in finished work",
    means:
      "A bug of its own in the backlog, linked to where it came from, not sized until the team sizes it.",
  },
  {
    where: "fix now",
    label: "and must be fixed now",
    means: "On the board at once, expedite and unplanned, estimated 0 so that velocity stays true.",
  },
];

/** One question that puts a bug in its right place. */
export function FoundFields({
  desk,
  value,
  onChange,
}: {
  desk: DeskView;
  value: Acceptance;
  onChange: (value: Acceptance) => void;
}) {
  const { found } = value;
  const where = found?.where ?? "elsewhere";
  const set = (next: Found | null) =>
    onChange({
      ...value,
      found: next,
      ...(next?.where === "fix now"
        ? { classOfService: "expedite" as const, origin: "unplanned" as const }
        : {}),
    });
  const choose = (next: (typeof FOUND)[number]["where"]) => {
    if (next === "elsewhere") set(null);
    else if (next === "in work")
      set({ where: next, itemId: desk.inWork[0]?.id ?? "", hours: 2, retestHours: 0.5 });
    else if (next === "in finished work") set({ where: next, itemId: null });
    else set({ where: next });
  };
  return (
    <fieldset className="col-span-full border-l-[3px] border-accent pl-3">
      <legend className="float-left mr-2 text-[12.5px] font-semibold">It was found</legend>
      <div className="flex flex-wrap gap-x-4">
        {FOUND.map((f) => (
          <label key={f.where} className="inline-flex items-center gap-1.5 text-[13px]">
            <input
              type="radio"
              name="found"
              className="accent-(--accent)"
              checked={where === f.where}
              onChange={() => choose(f.where)}
            />
            {f.label}
          </label>
        ))}
      </div>
      <p className="clear-both text-[12.5px] text-ink-soft">
        {FOUND.find((f) => f.where === where)!.means}
      </p>
      {found?.where === "in work" && (
        <div className="mt-1 grid grid-cols-[minmax(0,1fr)_110px_130px] gap-3">
          <Labelled label="In which item">
            <select
              className="field"
              required
              value={found.itemId}
              onChange={(e) => set({ ...found, itemId: e.target.value })}
            >
              {desk.inWork.map((i) => (
                <option key={i.id} value={i.id}>
                  {i.key} {i.title}
                </option>
              ))}
            </select>
          </Labelled>
          <Labelled label="Hours to mend it">
            <input
              className="field"
              type="number"
              min={0}
              step="any"
              required
              value={found.hours}
              onChange={(e) => set({ ...found, hours: Number(e.target.value) })}
            />
          </Labelled>
          <Labelled label="Hours to test again">
            <input
              className="field"
              type="number"
              min={0}
              step="any"
              required
              value={found.retestHours}
              onChange={(e) => set({ ...found, retestHours: Number(e.target.value) })}
            />
          </Labelled>
        </div>
      )}
      {found?.where === "in finished work" && (
        <Labelled label="It came from">
          <select
            className="field"
            value={found.itemId ?? ""}
            onChange={(e) => set({ ...found, itemId: e.target.value || null })}
          >
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
