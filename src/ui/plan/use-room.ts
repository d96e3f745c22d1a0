"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { planContract } from "@/core/plan/contract";
import type { HeldItem, PersonRoom, RoomView } from "@/core/plan/room-view";
import { sendCommand, undoCommand } from "@/ui/item/send-command";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { queryOf } from "@/ui/kit/request";
import { useReadAgain } from "@/ui/kit/use-read-again";

/** The weeks of a project's people, kept in step; what is given to another can be taken back. */
export function useRoom(initial: RoomView) {
  const client = useQueryClient();
  const query = queryOf(planContract.room, { params: { key: initial.project.key } });
  const { data: view } = useQuery({ ...query, initialData: initial });
  const readAgain = () => client.invalidateQueries({ queryKey: query.queryKey });
  useReadAgain((message) => ["item", "design", "resync"].includes(message.kind), readAgain);
  const give = async (
    { id, key, version }: HeldItem,
    to: Pick<PersonRoom, "id" | "name"> | null,
  ): Promise<void> => {
    try {
      const changes = { assigneeId: to?.id ?? null };
      const { commandId } = await sendCommand(id, { kind: "edit", seenVersion: version, changes });
      await readAgain();
      tellDone(to ? `${to.name} has ${key}.` : `Nobody has ${key} now.`, async () => {
        await undoCommand(id, commandId);
        await readAgain();
      });
    } catch (error) {
      tellProblem(error);
      await readAgain();
    }
  };
  return { view, give };
}

export type RoomHandle = ReturnType<typeof useRoom>;
