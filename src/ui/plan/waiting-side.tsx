"use client";
import { counted } from "@/core/formats/counted";
import { listWords } from "@/core/formats/list-words";
import { movedOn, type PlanConflict } from "@/core/plan/dependencies";
import { TextButton } from "@/ui/kit/button";
import { usePanel } from "@/ui/kit/panel-context";
import type { Sprintable } from "./use-sprint-moves";
import type { PlacedItem, WaitingHandle } from "./use-waiting";

/** Where dependencies do not hold, with what would mend them, and the longest chain. */
export function WaitingSide({ handle }: { handle: WaitingHandle }) {
  const { items, conflicts, chain, view } = handle;
  const { openItem } = usePanel();
  const byId = new Map(items.map((item) => [item.id, item]));
  const links = chain.map((id) => byId.get(id)!);
  const points = links.reduce((sum, { seen }) => sum + (seen?.points ?? 0), 0);
  const unsized = links.filter(({ seen }) => seen?.points == null).length;
  return (
    <aside aria-label="What does not hold" className="wait-side">
      <h2 className="text-[15px]">Does not hold</h2>
      {conflicts.length === 0 && (
        <p className="text-[13px] text-ink-soft">
          {view.sprints.length === 0
            ? "Nothing is planned into sprints here: there is nothing to hold it against."
            : "Everything comes after what it waits for."}
        </p>
      )}
      <ul className="flex flex-col gap-2 text-[13px]">
        {conflicts.map((conflict) => (
          <li
            key={`${conflict.item.id} ${conflict.waitsFor.id}`}
            className="border-l-[3px] pl-2 data-[kind=before]:border-alarm data-[kind=together]:border-signal"
            data-kind={conflict.kind}
          >
            <b className={conflict.kind === "before" ? "text-alarm" : "text-signal-ink"}>
              {conflictWords(handle, conflict)}
            </b>
            <Mend handle={handle} conflict={conflict} />
          </li>
        ))}
      </ul>
      {links.length > 0 && (
        <section aria-label="The longest chain" className="mt-4">
          <h2 className="text-[15px]">The longest chain</h2>
          <p className="text-[13px] text-ink-soft">
            {counted(links.length, "item")} one behind the other
            {points > 0 && `, ${counted(points, "point")}`}
            {unsized > 0 && ` and ${unsized} without a size, as ${view.defaultSize} each`}: whatever
            is late in it makes all behind it late.
          </p>
          <ol className="mt-1 text-[13px]">
            {links.map(({ id, key, seen }) => (
              <li key={id} className="wait-link">
                {seen ? (
                  <button
                    type="button"
                    className="flex min-h-6 min-w-0 items-center gap-1.5 text-left hover:underline"
                    onClick={() => openItem(key)}
                  >
                    <span className="key">{key}</span>
                    <span className="truncate">{seen.title}</span>
                  </button>
                ) : (
                  <span className="italic text-ink-soft">{key}</span>
                )}
              </li>
            ))}
          </ol>
        </section>
      )}
    </aside>
  );
}

function conflictWords({ view }: WaitingHandle, { item, waitsFor, kind }: PlanConflict): string {
  const sprint = (place: number | null) =>
    place === null ? "no sprint" : view.sprints[place].name;
  if (kind === "together")
    return `${item.key} waits for ${waitsFor.key} in ${sprint(item.place)}, by another team.`;
  const where = waitsFor.place === null ? "which is in no sprint" : `in ${sprint(waitsFor.place)}`;
  return `${item.key} in ${sprint(item.place)} waits for ${waitsFor.key}, ${where}.`;
}

/** All that has to move on so that a dependency holds, in order, done as one. */
function Mend({
  handle,
  conflict: { item, waitsFor, kind },
}: {
  handle: WaitingHandle;
  conflict: PlanConflict;
}) {
  const { view, items, move } = handle;
  if (!view.rights.plan || waitsFor.place === null) return null;
  const place = waitsFor.place + (kind === "together" ? 1 : 0);
  const sprint = view.sprints.at(place);
  if (!sprint)
    return <p className="text-ink-soft">Behind it no sprint is planned yet: make one first.</p>;
  const byId = new Map(items.map((one) => [one.id, one]));
  const all = movedOn(items, view.waits, { id: item.id, place }).map((one) =>
    byId.get(one.item.id)!,
  );
  const moved = all.filter(isMovable);
  const others = all.filter((one) => !isMovable(one));
  if (moved.length === 0) return <p className="text-ink-soft">It is planned in its own project.</p>;
  return (
    <p>
      <TextButton onClick={() => void move(moved.map(sprintable), sprint.id)}>
        Move{" "}
        {listWords(
          moved.map(({ key }) => key),
          "and",
        )}{" "}
        on to {sprint.name}
      </TextButton>
      {others.length > 0 && (
        <span className="block text-ink-soft">
          {listWords(
            others.map(({ key }) => key),
            "and",
          )}{" "}
          too, in {others.length === 1 ? "its" : "their"} own project.
        </span>
      )}
    </p>
  );
}

const isMovable = ({ own, seen }: PlacedItem): boolean => own && seen !== null;

const sprintable = ({ id, key, seen, sprintId }: PlacedItem): Sprintable => ({
  id,
  key,
  sprintId,
  version: seen!.version,
});
