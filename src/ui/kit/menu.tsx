"use client";
import { Check } from "lucide-react";
import Link from "next/link";
import { DropdownMenu as Radix } from "radix-ui";
import type { ReactElement, ReactNode } from "react";

/** Things to do or places to go to, opened by a button; arrow keys and first letters go through it. */
export function Menu({
  trigger,
  align = "start",
  onCloseFocus,
  children,
}: {
  trigger: ReactElement;
  align?: "start" | "end";
  /** Before the focus goes back to the button. */
  onCloseFocus?: (event: Event) => void;
  children: ReactNode;
}) {
  return (
    <Radix.Root>
      <Radix.Trigger asChild>{trigger}</Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          align={align}
          sideOffset={6}
          collisionPadding={8}
          className="popover menu"
          onCloseAutoFocus={onCloseFocus}
        >
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

export function MenuTitle({ children }: { children: ReactNode }) {
  return <Radix.Label className="px-2 py-1 font-semibold">{children}</Radix.Label>;
}

/** What stands apart from the rest, under a line. */
export function MenuSection({ children }: { children: ReactNode }) {
  return (
    <>
      <Radix.Separator className="my-1 h-px bg-line" />
      {children}
    </>
  );
}

export function MenuItem({
  sign,
  onSelect,
  disabled,
  children,
}: {
  sign?: ReactNode;
  onSelect: () => void;
  disabled?: boolean;
  children: ReactNode;
}) {
  return (
    <Radix.Item className="menu-item" disabled={disabled} onSelect={onSelect}>
      {sign}
      {children}
    </Radix.Item>
  );
}

export function MenuLink({
  sign,
  href,
  children,
}: {
  sign?: ReactNode;
  href: string;
  children: ReactNode;
}) {
  return (
    <Radix.Item asChild>
      <Link href={href} className="menu-item">
        {sign}
        {children}
      </Link>
    </Radix.Item>
  );
}

/** One of a few, chosen without closing the menu. */
export function MenuChoice<V extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: V;
  options: readonly { value: V; label: ReactNode; sign?: ReactNode }[];
  onChange: (value: V) => void;
}) {
  return (
    <Radix.RadioGroup
      value={value}
      onValueChange={(next) => onChange(next as V)}
      aria-label={label}
      className="my-1 border-y border-line py-1"
    >
      {options.map((option) => (
        <Radix.RadioItem
          key={option.value}
          value={option.value}
          className="menu-item"
          onSelect={(event) => event.preventDefault()}
        >
          {option.sign}
          <span className="flex-1">{option.label}</span>
          <Radix.ItemIndicator>
            <Check size={14} aria-hidden="true" />
          </Radix.ItemIndicator>
        </Radix.RadioItem>
      ))}
    </Radix.RadioGroup>
  );
}
