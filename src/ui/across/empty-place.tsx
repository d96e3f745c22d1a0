import Link from "next/link";
import type { BoardView } from "@/core/board/board-view";

/** Said on a board above the projects on which nothing stands. */
export function EmptyPlace({ view: { project, cards, membersOf } }: { view: BoardView }) {
  if (membersOf === null || cards.length > 0) return null;
  const mine = project.key === "mine";
  return (
    <div className="mx-auto max-w-[460px] py-10 text-ink-soft">
      <p className="font-semibold text-ink">
        {mine ? "Nothing is yours just now." : "Nothing stands here."}
      </p>
      <p>
        {mine
          ? "What you work on or review comes here, from all projects, with the large pieces that it is part of. What your teams have is one stop on."
          : "What comes into its projects comes here too."}{" "}
        <Link href={`/across/${project.key}?as=table`} className="link">
          Also what is finished, as a table
        </Link>
      </p>
    </div>
  );
}
