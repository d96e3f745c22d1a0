"use client";
import { useState } from "react";
import {
  isRead,
  type Condition,
  type UnreadText,
  type WrittenCondition,
} from "@/core/condition/condition";

/**
 * A condition in a form that can only be stored once it is finished: what is typed stays in its
 * editor until it can be read.
 */
export function useWritten<C extends Condition | null>(
  condition: C,
  onRead: (condition: Condition) => void,
): { written: C | UnreadText; write: (written: WrittenCondition) => void; unfinished: boolean } {
  const [unread, setUnread] = useState<UnreadText | null>(null);
  const write = (written: WrittenCondition) => {
    setUnread(isRead(written) ? null : written);
    if (isRead(written)) onRead(written);
  };
  const meant = condition === null ? null : unread;
  return { written: meant ?? condition, write, unfinished: meant !== null };
}
