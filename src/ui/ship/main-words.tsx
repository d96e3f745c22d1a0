import type { MainState } from "@/core/ship/main-health";
import { exact, span } from "@/ui/kit/time";
import { HostLink } from "./host-link";

/** Whether main is clean, for how long, and what broke it. */
export function MainWords({
  mains,
  now,
  zone,
}: {
  mains: readonly MainState[];
  now: number;
  zone: string;
}) {
  return mains.map(({ repository, clean, since, title, change, url }) => {
    const main = mains.length > 1 ? `main of ${repository}` : "main";
    const days = span(Math.max(0, now - since));
    const time = days === "just now" ? "since just now" : `for ${days}`;
    if (clean)
      return (
        <p key={repository} className="text-ink-soft" title={`since ${exact(since, zone)}`}>
          {main} is clean {time}
        </p>
      );
    return (
      <p
        key={repository}
        className="max-w-[420px] truncate font-semibold text-alarm"
        title={`since ${exact(since, zone)}: ${title}`}
      >
        {main} is broken {time}, by <HostLink url={url}>{change ?? title}</HostLink>
      </p>
    );
  });
}
