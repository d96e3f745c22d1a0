"use client";
import { useCallback } from "react";
import { counted } from "@/core/formats/counted";
import { Button } from "./button";

/**
 * Stands behind the last row of a long list: the next page comes when it is scrolled to, or asked
 * for. Give it a new key for every page.
 */
export function MoreRows({
  rest,
  what = "more item",
  onMore,
}: {
  rest: number;
  /** What one of them is called. */
  what?: string;
  onMore: () => void;
}) {
  const seen = useCallback(
    (element: HTMLElement | null) => {
      if (!element) return;
      const watch = new IntersectionObserver(([entry]) => entry.isIntersecting && onMore(), {
        rootMargin: "600px",
      });
      watch.observe(element);
      return () => watch.disconnect();
    },
    [onMore],
  );
  return (
    <div ref={seen} className="py-2 text-center">
      <Button look="quiet" small onClick={onMore}>
        {counted(rest, what)}
      </Button>
    </div>
  );
}
