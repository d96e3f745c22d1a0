"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import type { EditableFields } from "@/core/item/fields";
import type { LinkWay } from "@/core/item/link-way";
import type { OwnValue } from "@/core/item/own-field";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { readAnew } from "@/ui/kit/read-anew";
import { useLive, type LiveMessage } from "@/ui/kit/use-live";
import { sendCommand, undoCommand, type SentCommand } from "./send-command";
import type { ItemView } from "@/core/item/item-view";
import { itemContract } from "@/core/item/contract";
import { queryOf, keyOf } from "@/ui/kit/request";

export interface ItemHandle {
  view: ItemView;
  /** Sends a command, reloads the item, and offers to undo it. @throws Problem */
  send: (command: SentCommand, done?: string) => Promise<void>;
  /**
   * Changes fields; `seenVersion` is the version on which the change is based, the one shown unless
   * said otherwise.
   */
  edit: (
    changes: Partial<EditableFields>,
    seenVersion?: number,
    own?: Record<string, OwnValue | null>,
  ) => Promise<void>;
  link: (way: Pick<LinkWay, "linkKind" | "turned">, otherKey: string) => Promise<void>;
  reload: () => Promise<unknown>;
}

/** What is taken back in another way than by undoing it, or not at all. */
const STAYS: ReadonlySet<SentCommand["kind"]> = new Set([
  "comment",
  "ask",
  "lift",
  "edit comment",
  "take back comment",
  "close talk",
  "withdraw",
  "bring back",
  "record time",
  "remove time",
] as const);

/** After these it is read again, whatever they are about. */
const READ_AGAIN: ReadonlySet<LiveMessage["kind"]> = new Set([
  "resync",
  "design",
  "talk",
  "code",
] as const);

/** Reads an item and keeps it in step with what others do to it. */
export function useItem(key: string, initial?: ItemView) {
  const client = useQueryClient();
  const query = useQuery({
    ...queryOf(itemContract.read, { params: { key } }),
    initialData: initial,
  });
  const view = query.data;
  const reload = useCallback(
    () => readAnew(client, { queryKey: keyOf(itemContract.read, { params: { key } }) }),
    [client, key],
  );
  useLive((message) => {
    if (READ_AGAIN.has(message.kind)) void reload();
    // Before it is read, which item this is about is not known: it may be this one.
    if (
      message.kind === "item" &&
      (!view ||
        message.card.id === view.item.id ||
        message.card.parentId === view.item.id ||
        isAround(view, message.card.key))
    )
      void reload();
  });
  const handle: ItemHandle | null = view
    ? {
        view,
        reload,
        send: async (command, done) => {
          const { commandId } = await sendCommand(view.item.id, command);
          await reload();
          if (done)
            tellDone(
              done,
              STAYS.has(command.kind)
                ? undefined
                : async () => {
                    await undoCommand(view.item.id, commandId);
                    await reload();
                  },
            );
        },
        edit: async (changes, seenVersion = view.item.version, own = {}) => {
          await sendCommand(view.item.id, { kind: "edit", seenVersion, changes, own });
          await reload();
        },
        link: async ({ linkKind, turned }, otherKey) => {
          const command = { kind: "link", linkKind, turned, otherKey } as const;
          await sendCommand(view.item.id, command).catch((error) => {
            tellProblem(error);
            throw error;
          });
          await reload();
        },
      }
    : null;
  return { handle, error: query.error, loading: query.isPending };
}

/** Whether something of an item may be shown here: it is its parent, or linked to it. */
const isAround = ({ parent, links, ownFields }: ItemView, key: string): boolean =>
  ownFields.some(({ source, removedAt }) => source !== null && removedAt === null) &&
  (parent?.key === key || links.some((link) => link.key === key));
