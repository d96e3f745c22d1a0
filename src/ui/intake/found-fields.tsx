"use client";
import { Field, TextInput } from "@/ui/kit/field";
import { Select } from "@/ui/kit/select";
import { Choice } from "@/ui/kit/check";
import type { DeskView } from "@/core/intake/desk-view";
import type { Acceptance, Found } from "@/core/intake/acceptance";

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
          <Choice
            key={f.where}
            name="found"
            checked={where === f.where}
            onChange={() => choose(f.where)}
            className="text-[13px]"
          >
            {f.label}
          </Choice>
        ))}
      </div>
      <p className="clear-both text-[12.5px] text-ink-soft">
        {FOUND.find((f) => f.where === where)!.means}
      </p>
      {found?.where === "in work" && (
        <div className="mt-1 grid grid-cols-[minmax(0,1fr)_110px_130px] gap-3">
          <Field label="In which item">
            <Select
              required
              value={found.itemId}
              options={desk.inWork.map((i) => ({ value: i.id, label: `${i.key} ${i.title}` }))}
              onChange={(next) => set({ ...found, itemId: next })}
            />
          </Field>
          <Field label="Hours to mend it">
            <TextInput
              type="number"
              min={0}
              step="any"
              required
              value={found.hours}
              onChange={(e) => set({ ...found, hours: Number(e.target.value) })}
            />
          </Field>
          <Field label="Hours to test again">
            <TextInput
              type="number"
              min={0}
              step="any"
              required
              value={found.retestHours}
              onChange={(e) => set({ ...found, retestHours: Number(e.target.value) })}
            />
          </Field>
        </div>
      )}
      {found?.where === "in finished work" && (
        <Field label="It came from">
          <Select
            value={found.itemId ?? ""}
            options={[
              { value: "", label: "nobody knows" },
              ...desk.finishedLately.map((i) => ({ value: i.id, label: `${i.key} ${i.title}` })),
            ]}
            onChange={(next) => set({ ...found, itemId: next || null })}
          />
        </Field>
      )}
    </fieldset>
  );
}
