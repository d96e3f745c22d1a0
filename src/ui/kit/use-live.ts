"use client";
import { useEffect, useRef, useState } from "react";
import type { Card } from "@/core/board/card";
import { addressOf } from "@/core/contract/contract";
import { streamContract } from "@/core/item/contract";
import { healthContract } from "@/core/people/contract";

/** What the server tells an open page; the same shapes as its stream sends. */
export type LiveMessage =
  | { kind: "item"; id: number; card: Card; around: boolean }
  | {
      kind: "intake" | "design" | "visit" | "view" | "walk" | "talk" | "code" | "tests" | "counts";
      id: number;
    }
  | { kind: "draft"; id: number; workflowId: string; revision: number }
  | { kind: "resync" }
  /** What this person is told changed. */
  | { kind: "alerts" }
  | { kind: "database"; up: boolean };

export type Connection = "live" | "reconnecting" | "database away";

const LISTENERS = new Set<(message: LiveMessage) => void>();

/** Hears what happens in the project that is open; the stream itself is kept by `useLiveStream`. */
export function useLive(listener: (message: LiveMessage) => void): void {
  const latest = useRef(listener);
  useEffect(() => {
    latest.current = listener;
  });
  useEffect(() => {
    const hear = (message: LiveMessage) => latest.current(message);
    LISTENERS.add(hear);
    return () => void LISTENERS.delete(hear);
  }, []);
}

/**
 * Opens the one stream of a project page and keeps it open. The browser itself connects anew and
 * says where it was.
 */
export function useLiveStream(projectKey: string, after: number): Connection {
  const [connection, setConnection] = useState<Connection>("live");
  const start = useRef(after);
  useEffect(() => {
    let last = start.current;
    let source: EventSource | null = null;
    let again: ReturnType<typeof setTimeout> | null = null;
    const open = () => {
      source = new EventSource(
        addressOf(streamContract, { params: { key: projectKey }, query: { after: last } }),
      );
      source.onopen = () => setConnection("live");
      source.onmessage = (event) => {
        const message = JSON.parse(event.data) as LiveMessage;
        if ("id" in message) last = Math.max(last, message.id);
        if (message.kind === "database") setConnection(message.up ? "live" : "database away");
        for (const hear of LISTENERS) hear(message);
      };
      source.onerror = () => {
        setConnection((was) => (was === "database away" ? was : "reconnecting"));
        // An answer that is no stream (the server is starting, the database away) ends a source for
        // good.
        if (source?.readyState !== EventSource.CLOSED) return;
        again = setTimeout(open, 1_500);
        // Why it was refused a stream does not say; the health page does.
        fetch(addressOf(healthContract, {})).then(
          (answer) =>
            answer.status === 503 &&
            setConnection((was) => (was === "live" ? was : "database away")),
          () => {},
        );
      };
    };
    open();
    return () => {
      source?.close();
      if (again) clearTimeout(again);
    };
  }, [projectKey]);
  return connection;
}
