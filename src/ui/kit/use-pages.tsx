"use client";
import { useCallback, useState } from "react";
import { counted } from "@/core/formats/counted";
import { Button } from "./button";

const PAGE = 100;

/**
 * A long list, a page of rows at a time: the next page comes when the end of the last one is scrolled
 * to, or asked for.
 */
export function usePages<T>(all: readonly T[]): {
  shown: readonly T[];
  /** Stands behind the last row; nothing when all are shown. */
  end: React.ReactNode;
} {
  const [most, setMost] = useState(PAGE);
  const more = useCallback(() => setMost((n) => n + PAGE), []);
  const rest = all.length - most;
  return {
    shown: rest > 0 ? all.slice(0, most) : all,
    end: rest > 0 && <MoreRows key={most} rest={rest} onMore={more} />,
  };
}

function MoreRows({ rest, onMore }: { rest: number; onMore: () => void }) {
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
        {counted(rest, "more item")}
      </Button>
    </div>
  );
}
