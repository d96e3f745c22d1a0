import type { SaidOfIt } from "@/core/ship/acceptance/acceptance-view";
import { ago, exact } from "@/ui/kit/time";
import { AnsweredMark } from "./answered-mark";

/** What somebody said of it, the latest first, with what they could see then. */
export const SaidList = ({
  said,
  zone,
  now,
}: {
  said: readonly SaidOfIt[];
  zone: string;
  now: number;
}) => (
  <ol className="flex flex-col gap-2 text-[13px]">
    {said.map(({ accepted, name, words, at, environment, build }) => (
      <li key={at} className="grid grid-cols-[16px_minmax(0,1fr)] gap-1.5">
        <AnsweredMark of={accepted ? "accepted" : "missing"} />
        <span>
          <b>{name}</b> {accepted ? "accepted it" : "misses something"}{" "}
          <span title={exact(at, zone)} className="text-ink-soft">
            {ago(at, Math.max(now, at))}
            {environment && `, on ${environment}`}
            {build && `, build ${build}`}
          </span>
          {words && (
            <span className="block [overflow-wrap:anywhere] whitespace-pre-wrap">{words}</span>
          )}
        </span>
      </li>
    ))}
  </ol>
);
