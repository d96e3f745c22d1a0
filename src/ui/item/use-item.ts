"use client";
import type { ItemType } from "@/core/item/item-type";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import type { Card } from "@/core/board/card";
import type { Agreement } from "@/core/item/agreement";
import type { EditableFields, ItemSnapshot, LinkKind } from "@/core/item/fields";
import type { OwnField, OwnValue } from "@/core/item/own-field";
import type { Release, Sprint } from "@/core/plan/sprint";
import type { TargetState } from "@/core/intake/service-target";
import type { Zigzag } from "@/core/flow/zigzag";
import type { Transition } from "@/core/workflow/workflow";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { request } from "@/ui/kit/request";
import { useLive } from "@/ui/kit/use-live";
import { sendCommand, undoCommand, type SentCommand } from "./send-command";

/** An item as its panel and its page show it. */
export interface ItemView {
  item: ItemSnapshot;
  card: Card;
  key: string;
  project: { id: string; key: string; name: string; zone: string };
  state: { id: string; name: string };
  transitions: (Transition & { toName: string })[];
  comments: { id: string; author: string; body: string; at: number }[];
  history: {
    seq: number;
    who: string;
    words: string;
    note: string | null;
    at: number;
    kind: string;
  }[];
  children: {
    id: string;
    key: string;
    title: string;
    stateName: string;
    finished: boolean;
    card: Card;
    finish: Transition | null;
  }[];
  parent: { key: string; title: string } | null;
  links: { id: string; words: string; key: string; title: string; stateName: string }[];
  reports: { id: string; reference: string; title: string; receivedAt: number; status: string }[];
  told: number;
  knownAs: string | null;
  zigzag: Zigzag;
  agreement: Agreement;
  stateNames: Record<string, string>;
  ageDays: number;
  againDays: number | null;
  remaining: number | null;
  promise: { target: string; answer: TargetState | null; resolve: TargetState | null } | null;
  people: { id: string; name: string }[];
  teams: { id: string; name: string }[];
  types: ItemType[];
  sprints: Sprint[];
  releases: Release[];
  ownFields: OwnField[];
  rights: {
    move: boolean;
    edit: boolean;
    comment: boolean;
    block: boolean;
    overrideLimits: boolean;
    judge: boolean;
  };
  now: number;
}

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
  link: (linkKind: LinkKind, otherKey: string) => Promise<void>;
  reload: () => Promise<unknown>;
}

/** Reads an item and keeps it in step with what others do to it. */
export function useItem(key: string, initial?: ItemView) {
  const client = useQueryClient();
  const query = useQuery({
    queryKey: ["item", key],
    queryFn: () => request<ItemView>(`/api/items/${key}`),
    initialData: initial,
  });
  const view = query.data;
  const reload = useCallback(
    () => client.invalidateQueries({ queryKey: ["item", key] }),
    [client, key],
  );
  useLive((message) => {
    if (message.kind === "resync" || message.kind === "design") void reload();
    if (
      message.kind === "item" &&
      view &&
      (message.card.id === view.item.id || message.card.parentId === view.item.id)
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
              command.kind === "comment" || command.kind === "ask" || command.kind === "lift"
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
        link: async (linkKind, otherKey) => {
          await sendCommand(view.item.id, { kind: "link", linkKind, otherKey }).catch((error) => {
            tellProblem(error);
            throw error;
          });
          await reload();
        },
      }
    : null;
  return { handle, error: query.error, loading: query.isPending };
}
