"use client";
import { Plus } from "lucide-react";
import { useState } from "react";
import { v7 as newId } from "uuid";
import { parseIsoDate } from "@/core/calendar/zone";
import { planContract } from "@/core/plan/contract";
import type { TimeboxRequest } from "@/core/plan/request";
import { newRelease, sprintAfter, type Sprint } from "@/core/plan/sprint";
import { Button } from "@/ui/kit/button";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { Popover } from "@/ui/kit/popover";
import { ask } from "@/ui/kit/request";
import { ReleaseForm, SprintForm } from "./timebox-form";

/** How what was made is taken out again. */
const undoOf = (body: TimeboxRequest): TimeboxRequest | null =>
  body.kind === "sprint"
    ? { kind: "remove sprint", id: body.sprint.id }
    : body.kind === "release"
      ? { kind: "remove release", id: body.release.id }
      : null;

/** As long as the last one is; two weeks where there is none. */
const usualDays = (sprints: readonly Sprint[]): number => {
  const last = sprints.at(-1);
  return last ? parseIsoDate(last.endsOn) - parseIsoDate(last.startsOn) + 1 : 14;
};

/** Makes a sprint or a release where its column is wanted. */
export function NewTimebox({
  projectKey,
  kind,
  sprints,
  today,
}: {
  projectKey: string;
  kind: "sprint" | "release";
  sprints: readonly Sprint[];
  /** ISO 8601 date */
  today: string;
}) {
  const [open, setOpen] = useState(false);
  const change = (body: TimeboxRequest) =>
    ask(planContract.change, { params: { key: projectKey }, body });
  const send = async (body: TimeboxRequest): Promise<boolean> => {
    try {
      await change(body);
      const undo = undoOf(body);
      tellDone(
        `The new ${kind} has a column.`,
        undo ? async () => void (await change(undo)) : undefined,
      );
      setOpen(false);
      return true;
    } catch (error) {
      tellProblem(error);
      return false;
    }
  };
  const form = { isNew: true, onSend: send, onCancel: () => setOpen(false) };
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={`New ${kind}`}
      align="end"
      className="w-[320px]"
      trigger={
        <Button>
          <Plus size={14} aria-hidden="true" />
          New {kind}
        </Button>
      }
    >
      {kind === "sprint" ? (
        <SprintForm
          given={{ id: newId(), goal: "", ...sprintAfter(sprints, today, usualDays(sprints)) }}
          {...form}
        />
      ) : (
        <ReleaseForm given={newRelease(newId())} {...form} />
      )}
    </Popover>
  );
}
