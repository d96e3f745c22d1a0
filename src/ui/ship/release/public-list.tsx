import { dayNumber, isoDate } from "@/core/calendar/zone";
import type { PublicReleases } from "@/core/ship/release/release-page";
import { shortDate } from "@/ui/kit/time";
import { Words } from "@/ui/kit/words";

/** What went out, the latest first, and what is known to be wrong. */
export function PublicReleaseList({ view }: { view: PublicReleases }) {
  const { releases, known, zone, feed } = view;
  return (
    <>
      <h1 className="text-[24px] leading-tight">What went out</h1>
      {releases.length === 0 && <p className="mt-2 text-ink-soft">Nothing has gone out yet.</p>}
      {known.length > 0 && (
        <section aria-label="Known problems" className="mt-4">
          <h2 className="text-[17px]">Known problems</h2>
          <ul className="list-disc pl-5">
            {known.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
        </section>
      )}
      {releases.map(({ id, name, outAt, notes, withdrawnAt }) => (
        <article key={id} id={id} className="mt-6">
          <h2 className="text-[17px]">{name}</h2>
          <p className="mb-1 text-ink-soft">
            {shortDate(isoDate(dayNumber(outAt, zone)))}
            {withdrawnAt !== null && (
              <b className="text-alarm">
                , taken back {shortDate(isoDate(dayNumber(withdrawnAt, zone)))}
              </b>
            )}
          </p>
          <Words text={notes} />
        </article>
      ))}
      <p className="mt-6 text-[14px]">
        <a className="link" href={feed}>
          Follow as an Atom feed
        </a>
      </p>
    </>
  );
}
