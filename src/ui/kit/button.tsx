import Link from "next/link";
import type { ComponentProps } from "react";

/** How much a button asks to be pressed: one accent a screen, quiet where many stand together. */
export type ButtonLook = "plain" | "strong" | "accent" | "quiet" | "danger";

interface Shape {
  look?: ButtonLook;
  /** For lines of text and tables. */
  small?: boolean;
}

const LOOKS: Record<ButtonLook, string> = {
  plain: "",
  strong: "button-strong",
  accent: "button-accent",
  quiet: "button-quiet",
  danger: "button-quiet button-danger",
};

const buttonClass = ({ look = "plain", small }: Shape, more = ""): string =>
  ["button", LOOKS[look], small ? "button-small" : "", more].filter(Boolean).join(" ");

/** A button; it sends no form unless it says type="submit". */
export function Button({
  look,
  small,
  className,
  type = "button",
  ...rest
}: Shape & ComponentProps<"button">) {
  return <button type={type} className={buttonClass({ look, small }, className)} {...rest} />;
}

/** A way to another place that looks like a button. */
export function ButtonLink({
  look,
  small,
  className,
  ...rest
}: Shape & ComponentProps<typeof Link>) {
  return <Link className={buttonClass({ look, small }, className)} {...rest} />;
}

/** An action in the middle of words, written like a link. */
export function TextButton({ className = "", ...rest }: ComponentProps<"button">) {
  return <button type="button" className={`link ${className}`} {...rest} />;
}
