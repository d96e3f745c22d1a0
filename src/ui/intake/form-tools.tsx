"use client";

import { Button } from "@/ui/kit/button";
import type { StoredForm } from "@/core/intake/forms-view";

/** What is done with the form as a whole. */
export function FormTools({
  form,
  address,
  locked,
  changed,
  faulty,
  onStore,
  onTakeBack,
  onOpen,
  onRemove,
}: {
  form: StoredForm;
  address: string;
  locked: boolean;
  changed: boolean;
  faulty: boolean;
  onStore: () => void;
  onTakeBack: () => void;
  onOpen: () => void;
  onRemove: () => void;
}) {
  return (
    <div className="sticky top-0 z-10 -mx-5 flex shrink-0 flex-wrap items-center gap-2 border-b border-line bg-paper px-5 py-2">
      <Button look="accent" disabled={locked || !changed || faulty} onClick={onStore}>
        Store the form
      </Button>
      {changed && (
        <Button look="quiet" onClick={onTakeBack}>
          Take my changes back
        </Button>
      )}
      <Button disabled={locked || changed} onClick={onOpen}>
        {form.open ? "Close the form" : "Open the form"}
      </Button>
      <a className="link text-[13px]" href={address} target="_blank" rel="noreferrer">
        {form.open ? "See it as others do" : "See what others are told"}
      </a>
      <span className="flex-1" />
      <Button look="danger" small disabled={locked} onClick={onRemove}>
        Take it out
      </Button>
    </div>
  );
}
