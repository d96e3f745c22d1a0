"use client";
import { ButtonLink } from "./button";
import { Mark } from "./mark";
import { ActionParts } from "./parts/action-parts";
import { ChoiceParts } from "./parts/choice-parts";
import { FieldParts } from "./parts/field-parts";
import { SheetParts } from "./parts/sheet-parts";

/** Every part that screens are made of, in every state, on both papers side by side. */
export function PartsScreen() {
  return (
    <main className="flex flex-col gap-4 px-6 py-6">
      <header className="flex items-center gap-3">
        <Mark size={36} />
        <div>
          <h1 className="text-[22px] leading-tight">Parts of the screens</h1>
          <p className="text-ink-soft">
            All screens are made of these, on light and on dark paper. What opens follows the paper
            that you have chosen.
          </p>
        </div>
        <ButtonLink href="/" look="quiet" className="ml-auto">
          Back to work
        </ButtonLink>
      </header>
      <div className="grid gap-4 xl:grid-cols-2">
        {(["light", "dark"] as const).map((paper) => (
          <section
            key={paper}
            data-paper={paper}
            aria-label={`On ${paper} paper`}
            className="flex flex-col gap-5 border border-line bg-paper p-4 text-ink"
          >
            <FieldParts />
            <ChoiceParts paper={paper} />
            <ActionParts />
            <SheetParts />
          </section>
        ))}
      </div>
    </main>
  );
}
