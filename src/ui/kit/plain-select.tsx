import type { ComponentProps } from "react";
import { fieldClass } from "./field";

/** One of several in a form that is also sent by browsers without JavaScript; elsewhere, Select. */
export function PlainSelect({
  options,
  none,
  ...rest
}: { options: readonly string[]; none: string } & ComponentProps<"select">) {
  return (
    <select {...rest} className={fieldClass(false)}>
      <option value="">{none}</option>
      {options.map((option) => (
        <option key={option}>{option}</option>
      ))}
    </select>
  );
}
