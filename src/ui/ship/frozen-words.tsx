import { dayNumber, isoDate } from "@/core/calendar/zone";
import { freezeOn, nextFreeze, type Environment } from "@/core/ship/environment";
import { shortDate } from "@/ui/kit/time";

/** Which environment is frozen, or will be next, and until when. */
export function FrozenWords({
  environments,
  zone,
  now,
}: {
  environments: readonly Environment[];
  zone: string;
  now: number;
}) {
  const today = isoDate(dayNumber(now, zone));
  const coming = environments
    .flatMap((environment) => {
      const freeze = nextFreeze(environment, today);
      return freeze ? [{ environment, freeze }] : [];
    })
    .toSorted((a, b) => (a.freeze.from < b.freeze.from ? -1 : 1))[0];
  if (!coming) return null;
  const { environment, freeze } = coming;
  const { from, until, why } = freeze;
  const days = freezeOn(environment, today)
    ? `until ${shortDate(until)}`
    : `from ${shortDate(from)} to ${shortDate(until)}`;
  return (
    <p className="font-semibold text-signal-ink" title={why || undefined}>
      {environment.name} is frozen {days}
    </p>
  );
}
