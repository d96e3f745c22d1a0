import { Anchor } from "lucide-react";
import type { TermKind } from "@/core/item/terms/term";
import { termNamed, type TermsView } from "@/core/item/terms/view";
import { Pennant } from "./pennant";

/** A label or a part as it is read: its sign, its name, and what it means where one points. */
export function TermName({
  terms,
  kind,
  name,
}: {
  terms: TermsView["terms"];
  kind: TermKind;
  name: string;
}) {
  const term = termNamed(terms, kind, name);
  return (
    <span
      className={`term-name ${term.endedAt === null ? "" : "line-through"}`}
      title={term.meaning || undefined}
    >
      {kind === "label" ? (
        <Pennant sign={term.sign} hue={term.hue} />
      ) : (
        <Anchor size={12} aria-hidden="true" className="shrink-0 text-ink-soft" />
      )}
      <span className="truncate">{name}</span>
    </span>
  );
}
