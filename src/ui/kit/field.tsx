import { useId, type ComponentProps, type ReactNode } from "react";

/** How the label of a field is written, wherever it stands. */
const LABEL = "flex flex-col gap-1 text-[12.5px] font-semibold";

/** A label over its control, with what helps to fill it in and what is wrong with it. */
export function Field({
  label,
  hint,
  problem,
  className = "",
  children,
}: {
  label: ReactNode;
  hint?: ReactNode;
  problem?: ReactNode;
  className?: string;
  children: ReactNode;
}) {
  if (!hint && !problem)
    return (
      <label className={`${LABEL} ${className}`}>
        {label}
        {children}
      </label>
    );
  return (
    <div className={`${LABEL} ${className}`}>
      <label className={LABEL}>
        {label}
        {children}
      </label>
      {hint && <p className="font-normal text-ink-soft">{hint}</p>}
      {problem && (
        <p role="alert" className="text-alarm">
          {problem}
        </p>
      )}
    </div>
  );
}

/** Several controls under one heading. */
export function FieldGroup({
  label,
  className = "",
  children,
}: {
  label: string;
  className?: string;
  children: ReactNode;
}) {
  const id = useId();
  return (
    <div role="group" aria-labelledby={id} className={`${LABEL} ${className}`}>
      <span id={id}>{label}</span>
      {children}
    </div>
  );
}

interface Looks {
  /** Looks like text until the pointer or the keyboard reaches it. */
  plain?: boolean;
  /** Stands in the middle of a sentence. */
  words?: boolean;
}

export const fieldClass = (plain: boolean | undefined, more = ""): string =>
  ["field", plain ? "field-plain" : "", more].filter(Boolean).join(" ");

export function TextInput({ plain, words, className, ...rest }: Looks & ComponentProps<"input">) {
  const look = words ? `in-words ${className ?? ""}` : fieldClass(plain, className);
  return <input className={look} {...rest} />;
}

export function TextArea({
  plain,
  className,
  ...rest
}: Omit<Looks, "words"> & ComponentProps<"textarea">) {
  return <textarea className={fieldClass(plain, className)} {...rest} />;
}
