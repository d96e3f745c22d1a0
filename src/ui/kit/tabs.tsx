"use client";
import { Tabs as Radix } from "radix-ui";
import type { ReactNode } from "react";

export interface Tab<V extends string> {
  value: V;
  label: ReactNode;
  panel: ReactNode;
}

/** Several sheets in one place; arrow keys go from one to the next. */
export function Tabs<V extends string>({
  label,
  value,
  tabs,
  onChange,
  className = "",
  listClass = "",
  panelClass = "",
}: {
  label: string;
  value: V;
  tabs: readonly Tab<V>[];
  onChange: (value: V) => void;
  className?: string;
  listClass?: string;
  panelClass?: string;
}) {
  return (
    <Radix.Root
      value={value}
      onValueChange={(next) => onChange(next as V)}
      className={`flex min-h-0 flex-col ${className}`}
    >
      <Radix.List aria-label={label} className={`tabs ${listClass}`}>
        {tabs.map((tab) => (
          <Radix.Trigger key={tab.value} value={tab.value} className="tab">
            {tab.label}
          </Radix.Trigger>
        ))}
      </Radix.List>
      {tabs.map((tab) => (
        <Radix.Content key={tab.value} value={tab.value} className={panelClass}>
          {tab.panel}
        </Radix.Content>
      ))}
    </Radix.Root>
  );
}
