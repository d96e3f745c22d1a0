"use client";
import { v4 as newId } from "uuid";
import { amountWords } from "@/core/time/amount";
import { leftAfter, type TimeEntry } from "@/core/time/entry";
import { sendCommand } from "@/ui/item/send-command";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import type { Recorded } from "./record-form";

/** The item that time is recorded on, as far as it matters here. */
export interface RecordedOn {
  itemId: string;
  key: string;
  /** In hours, of the item alone. */
  left: number | null;
}

/** Records time on an item, changes and removes what is recorded; each can be taken back. */
export function useRecording({ itemId, key, left }: RecordedOn, reload: () => Promise<unknown>) {
  const put = (
    entryId: string,
    { minutes, on, note }: Omit<Recorded, "left">,
    then?: number | null,
  ) =>
    sendCommand(itemId, {
      kind: "record time",
      entryId,
      minutes,
      on,
      note,
      ...(then === undefined ? {} : { left: then }),
    });
  const drop = (entryId: string, then?: number | null) =>
    sendCommand(itemId, {
      kind: "remove time",
      entryId,
      ...(then === undefined ? {} : { left: then }),
    });
  /** Does it, tells of it, and offers the way back. @throws Problem */
  const done = async (act: () => Promise<unknown>, words: string, back: () => Promise<unknown>) => {
    try {
      await act();
    } catch (error) {
      tellProblem(error);
      throw error;
    }
    await reload();
    tellDone(words, async () => {
      await back();
      await reload();
    });
  };
  /** What the way back says of what is left: as it was, where this changed it. */
  const asBefore = (then: number | null | undefined) => (then === undefined ? undefined : left);
  return {
    record: (recorded: Recorded) => {
      const entryId = newId();
      return done(
        () => put(entryId, recorded, recorded.left),
        `${amountWords(recorded.minutes)} recorded on ${key}.`,
        () => drop(entryId, asBefore(recorded.left)),
      );
    },
    change: (was: TimeEntry, recorded: Recorded) =>
      done(
        () => put(was.entryId, recorded, recorded.left),
        `Changed to ${amountWords(recorded.minutes)}.`,
        () => put(was.entryId, was, asBefore(recorded.left)),
      ),
    remove: (was: TimeEntry) => {
      const then = leftAfter(left, was, null);
      const told = then === left ? undefined : then;
      return done(
        () => drop(was.entryId, told),
        `${amountWords(was.minutes)} removed.`,
        () => put(was.entryId, was, asBefore(told)),
      );
    },
  };
}
