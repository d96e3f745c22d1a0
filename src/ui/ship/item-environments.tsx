import type { ItemPresence } from "@/core/ship/item-code";
import { ago, exact } from "@/ui/kit/time";
import { HostLink } from "./host-link";

const HOW = { all: "on", some: "in part on", none: "not on" } as const;

/** On which environments an item is; where it can be looked at there, its name leads to it. */
export function ItemEnvironments({
  environments,
  zone,
  now,
}: {
  environments: readonly ItemPresence[];
  zone: string;
  now: number;
}) {
  if (environments.length === 0) return null;
  return (
    <div className="mt-2">
      <p className="text-[12.5px] text-ink-soft">where it is</p>
      <ul className="item-environments" aria-label="Environments">
        {environments.map(({ name, there, since, address }) => (
          <li
            key={name}
            data-there={there}
            title={since === null ? undefined : `since ${exact(since, zone)}`}
          >
            <span className="sr-only">{HOW[there]} </span>
            {there === "none" ? name : <HostLink url={address}>{name}</HostLink>}
            {there === "some" && <span className="text-ink-soft"> in part</span>}
            {since !== null && <span className="text-ink-soft"> {ago(since, now)}</span>}
          </li>
        ))}
      </ul>
    </div>
  );
}
