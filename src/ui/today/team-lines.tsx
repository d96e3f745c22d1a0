"use client";
import Link from "next/link";
import type { TodayView } from "@/core/today/today-view";
import { TextButton } from "@/ui/kit/button";
import { usePanel } from "@/ui/kit/panel-context";

/** How the project that is open stands; each figure opens what is behind it. */
export function TeamLines({ view }: { view: TodayView }) {
  const { openBehind } = usePanel();
  if (view.team.length === 0) return null;
  return (
    <section aria-label="The team">
      <h2>
        The team <span>{view.project.name}</span>
      </h2>
      <ul className="beside-lines">
        {view.team.map(({ words, count, ids, href, alarm }) => {
          const said = (
            <>
              <b className={alarm ? "text-alarm" : ""}>{count}</b> {words}
            </>
          );
          return (
            <li key={words}>
              {href !== null ? (
                <Link href={href} className="beside-line" prefetch={false}>
                  {said}
                </Link>
              ) : (
                <TextButton
                  className="beside-line"
                  onClick={() => openBehind({ title: words, ids, unseen: count - ids.length })}
                >
                  {said}
                </TextButton>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
