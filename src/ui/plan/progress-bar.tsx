import type { PieceProgress } from "@/core/plan/piece-progress";

/** How much is done, in progress and not begun, as one bar: full, hatched, empty. */
export function ProgressBar({ progress: { items, done, doing } }: { progress: PieceProgress }) {
  const part = (of: number) => `${items === 0 ? 0 : (100 * of) / items}%`;
  return (
    <span className="progress-bar" aria-hidden="true">
      <span style={{ width: part(done) }} />
      <span data-doing="" style={{ width: part(doing) }} />
    </span>
  );
}
