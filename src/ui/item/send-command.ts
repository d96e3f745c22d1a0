import type { OwnValue } from "@/core/item/own-field";
import type { Card } from "@/core/board/card";
import type { MoveAnswers } from "@/core/item/command";
import type { EditableFields, LinkKind } from "@/core/item/fields";
import { request } from "@/ui/kit/request";
import { v7 as newId } from "uuid";

/** What the interface asks of items; the server's request schema checks it. */
export type SentCommand =
  | { kind: "move"; from: string; to: string; answers: MoveAnswers; overrideReason?: string }
  | {
      kind: "edit";
      seenVersion: number;
      changes: Partial<EditableFields>;
      own?: Record<string, OwnValue | null>;
    }
  | { kind: "place"; below: string | null }
  | { kind: "put under"; parentKey: string | null }
  | { kind: "comment"; body: string }
  | { kind: "ask"; body: string }
  | { kind: "block"; cause: string; waitingFor: string | null }
  | { kind: "lift"; blockId: string }
  | { kind: "link"; linkKind: LinkKind; otherKey: string }
  | { kind: "unlink"; linkId: string }
  | { kind: "tick"; policyId: string; on: boolean }
  | { kind: "approve"; on: boolean }
  | { kind: "undo"; commandId: string };

/** Sends a command. Its key stays the same when it has to be sent again. @throws Problem */
export async function sendCommand(
  itemId: string,
  command: SentCommand,
): Promise<{ card: Card; commandId: string }> {
  const commandId = newId();
  const { card } = await request<{ card: Card }>("/api/items/commands", {
    body: { commandId, itemId, command },
  });
  return { card, commandId };
}

/** Takes back a command that was the item's last. @throws Problem */
export const undoCommand = (itemId: string, commandId: string) =>
  sendCommand(itemId, { kind: "undo", commandId });
