import type { AgeTrack as Track } from "@/core/board/age-track";

/** How old an item is, beside how old others were when they finished. */
export function AgeTrack({
  track,
  late,
  className = "",
}: {
  track: Track;
  late: boolean;
  className?: string;
}) {
  return (
    <div
      className={`flex items-center gap-2 ${className}`}
      style={late ? { ["--age" as string]: "var(--alarm)" } : undefined}
    >
      <div className="age-track" aria-hidden="true">
        <i className="age-run" style={{ width: `${track.dot * 100}%` }} />
        {track.median !== null && (
          <i className="age-mark" style={{ left: `${track.median * 100}%` }} />
        )}
        {track.p85 !== null && (
          <i className="age-mark" data-strong="true" style={{ left: `${track.p85 * 100}%` }} />
        )}
        <i className="age-dot" style={{ left: `${track.dot * 100}%` }} />
      </div>
      <span
        className={`whitespace-nowrap text-[12px] ${late ? "font-bold text-alarm" : "text-ink-soft"}`}
      >
        {track.words}
      </span>
    </div>
  );
}
