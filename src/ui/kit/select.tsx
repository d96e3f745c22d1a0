"use client";
import { Check, ChevronDown, ChevronUp } from "lucide-react";
import { Select as Radix } from "radix-ui";
import { fieldClass } from "./field";
import { NoteBeside } from "./option-notes";

export interface Option<V extends string = string> {
  value: V;
  label: string;
  disabled?: boolean;
  /** Over already: it is offered only where it is what was chosen. */
  past?: boolean;
}

interface OptionGroup<V extends string = string> {
  group: string;
  options: readonly Option<V>[];
}

/** Radix keeps the empty value for "nothing chosen yet"; here it is a choice like any other. */
const EMPTY = "\u2205";
const inside = (value: string) => (value === "" ? EMPTY : value);
const outside = (value: string) => (value === EMPTY ? "" : value);

/** The options for words that stand for themselves. */
export const wordOptions = <V extends string>(words: readonly V[]): Option<V>[] =>
  words.map((word) => ({ value: word, label: word }));

/** The options for things with a name. */
export const namedOptions = (
  things: readonly { id: string; name: string; past?: boolean }[],
): Option[] => things.map(({ id, name, past }) => ({ value: id, label: name, past }));

interface SelectProps<V extends string> {
  id?: string;
  value: V;
  options: readonly (Option<V> | OptionGroup<V>)[];
  onChange: (value: V) => void;
  /** What it is called where no label stands around it. */
  label?: string;
  /** Shown while nothing is chosen. */
  placeholder?: string;
  /** Looks like text until the pointer or the keyboard reaches it. */
  plain?: boolean;
  /** Stands in the middle of a sentence. */
  words?: boolean;
  disabled?: boolean;
  required?: boolean;
  autoFocus?: boolean;
  invalid?: boolean;
  title?: string;
  className?: string;
}

/**
 * One of several. Arrow keys and the first letters go through the list, Enter takes, Esc leaves it.
 * A value that is no longer offered is shown as nothing chosen and stays until another is taken.
 */
export function Select<V extends string>({
  id,
  value,
  options,
  onChange,
  label,
  placeholder,
  plain,
  words,
  disabled,
  required,
  autoFocus,
  invalid,
  title,
  className,
}: SelectProps<V>) {
  const offered = options.filter((o) => "group" in o || !o.past || o.value === value);
  return (
    <Radix.Root
      // Nothing that is offered: the placeholder says so.
      value={value === "" && !offersNothing(offered) ? "" : inside(value)}
      // A form that is emptied lets Radix say so with nothing; that is not a choice of the person.
      onValueChange={(next) => next !== "" && onChange(outside(next) as V)}
      disabled={disabled}
      required={required}
    >
      <Radix.Trigger
        id={id}
        aria-label={label}
        aria-invalid={invalid || undefined}
        autoFocus={autoFocus}
        title={title}
        className={words ? "in-words" : fieldClass(plain, `select ${className ?? ""}`)}
      >
        <span className="truncate">
          <Radix.Value placeholder={placeholder ?? " "} />
        </span>
        {!words && (
          <Radix.Icon className="select-sign">
            <ChevronDown size={14} aria-hidden="true" />
          </Radix.Icon>
        )}
      </Radix.Trigger>
      <Radix.Portal>
        <Radix.Content position="popper" sideOffset={3} collisionPadding={8} className="options">
          <Radix.ScrollUpButton className="options-more">
            <ChevronUp size={14} aria-hidden="true" />
          </Radix.ScrollUpButton>
          <Radix.Viewport>
            {offered.map((option) =>
              "group" in option ? (
                <Radix.Group key={option.group}>
                  <Radix.Label className="options-group">{option.group}</Radix.Label>
                  {option.options.map((each) => (
                    <OneOption key={each.value} {...each} />
                  ))}
                </Radix.Group>
              ) : (
                <OneOption key={option.value} {...option} />
              ),
            )}
          </Radix.Viewport>
          <Radix.ScrollDownButton className="options-more">
            <ChevronDown size={14} aria-hidden="true" />
          </Radix.ScrollDownButton>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

/** Whether nothing is one of the choices. */
const offersNothing = (offered: SelectProps<string>["options"]): boolean =>
  offered.some((option) =>
    "group" in option ? option.options.some(({ value }) => value === "") : option.value === "",
  );

function OneOption({ value, label, disabled }: Option) {
  return (
    <Radix.Item value={inside(value)} disabled={disabled} className="option">
      <Radix.ItemText>{label}</Radix.ItemText>
      <NoteBeside value={value} />
      <Radix.ItemIndicator className="option-sign">
        <Check size={14} aria-hidden="true" />
      </Radix.ItemIndicator>
    </Radix.Item>
  );
}
