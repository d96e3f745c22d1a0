"use client";

/** A few words in a row, one of which holds. */
export function ChoiceTabs<T extends string>({
  label,
  values,
  chosen,
  onChoose,
}: {
  label: string;
  values: readonly T[];
  chosen: T;
  onChoose: (value: T) => void;
}) {
  return (
    <span role="group" aria-label={label} className="tabs !border-0">
      {values.map((value) => (
        <button
          key={value}
          type="button"
          className="tab"
          aria-pressed={value === chosen}
          data-state={value === chosen ? "active" : "inactive"}
          onClick={() => onChoose(value)}
        >
          {value}
        </button>
      ))}
    </span>
  );
}
