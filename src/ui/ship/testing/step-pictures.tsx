"use client";
import { X } from "lucide-react";
import { addressOf } from "@/core/contract/contract";
import { testingContract } from "@/core/ship/testing/contract";
import type { RunStep, RunView } from "@/core/ship/testing/testing-view";
import { Picture } from "@/ui/kit/picture";

/** Pictures of what a tester saw; each opens by itself. */
export function StepPictures({
  step,
  view,
  onRemove,
}: {
  step: RunStep;
  view: RunView;
  onRemove?: (id: string) => void;
}) {
  if (step.pictures.length === 0) return null;
  const addressFor = (picture: string) =>
    addressOf(testingContract.picture, {
      params: { key: view.project.key, number: String(view.number), picture },
    });
  return (
    <ul className="step-pictures">
      {step.pictures.map(({ id, name }) => (
        <li key={id}>
          <a href={addressFor(id)} target="_blank" rel="noreferrer">
            <Picture src={addressFor(id)} alt={name} className="step-picture" />
          </a>
          {onRemove && (
            <button type="button" aria-label={`Take off ${name}`} onClick={() => onRemove(id)}>
              <X size={13} aria-hidden="true" />
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}
