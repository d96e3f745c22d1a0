import type { ComponentProps, ReactNode } from "react";

type Ticked = Omit<ComponentProps<"input">, "type" | "onChange" | "className"> & {
  onChange?: (checked: boolean) => void;
  /** The words beside it; without them it needs an aria-label. */
  children?: ReactNode;
  className?: string;
};

function Mark({
  kind,
  onChange,
  children,
  className = "",
  ...rest
}: Ticked & { kind: "checkbox" | "radio" }) {
  const input = (
    <input
      type={kind}
      className="check"
      onChange={(event) => onChange?.(event.target.checked)}
      {...rest}
    />
  );
  if (children === undefined) return input;
  return (
    <label className={`check-line ${className}`}>
      {input}
      {children}
    </label>
  );
}

/** Yes or no, with its words; Space turns it. */
export function Check(props: Ticked) {
  return <Mark kind="checkbox" {...props} />;
}

/** One of a few that are all shown; those with the same name belong together. */
export function Choice(props: Ticked) {
  return <Mark kind="radio" {...props} />;
}
