"use client";
import { useCallback, useEffect, useState, type Dispatch, type SetStateAction } from "react";

const PREFIX = "zigzag-kept ";

/**
 * A text that stays in this browser, also when the page is left: what somebody is writing, until it
 * is sent; how they like to look at something.
 * @param name of what it is kept for
 */
export function useKeptText(name: string): [string, Dispatch<SetStateAction<string>>] {
  const [text, setText] = useState("");
  // Read after the first paint: the server does not know what stands in the browser.
  useEffect(() => {
    const kept = read(name);
    if (kept !== "") queueMicrotask(() => setText((now) => (now === "" ? kept : now)));
  }, [name]);
  const set = useCallback(
    (next: SetStateAction<string>) =>
      setText((now) => {
        const text = typeof next === "string" ? next : next(now);
        // The same once more does no harm, where it is worked out twice.
        write(name, text);
        return text;
      }),
    [name],
  );
  return [text, set];
}

function read(name: string): string {
  try {
    return localStorage.getItem(PREFIX + name) ?? "";
  } catch {
    return "";
  }
}

function write(name: string, text: string): void {
  try {
    if (text === "") localStorage.removeItem(PREFIX + name);
    else localStorage.setItem(PREFIX + name, text);
  } catch {
    // A browser that keeps nothing: then it lives as long as its page.
  }
}
