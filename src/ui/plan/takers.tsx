"use client";
import { useQuery } from "@tanstack/react-query";
import { planContract } from "@/core/plan/contract";
import type { HeldItem, TakerView } from "@/core/plan/room-view";
import { Button, TextButton } from "@/ui/kit/button";
import { Initials } from "@/ui/kit/initials";
import { usePanel } from "@/ui/kit/panel-context";
import { problemOf, queryOf } from "@/ui/kit/request";

/** Who could take an item, the best first, with the reason. */
export function Takers({
  projectKey,
  item,
  onGive,
}: {
  projectKey: string;
  item: Pick<HeldItem, "id" | "key" | "title">;
  onGive: (person: TakerView) => void;
}) {
  const { openBehind } = usePanel();
  const { data, error } = useQuery(
    queryOf(planContract.takers, { params: { key: projectKey }, query: { item: item.id } }),
  );
  if (error) return <p className="text-alarm">{problemOf(error).sentence}</p>;
  if (!data) return <p className="text-ink-soft">Looking at who has room …</p>;
  return (
    <>
      <p className="truncate text-[13px] text-ink-soft">
        {item.title}
        {data.hours !== null && `, about ${Math.round(data.hours)} h`}
      </p>
      {data.takers.length === 0 && <p className="py-3">Everybody else is away.</p>}
      <ul className="mt-2 max-h-[50vh] overflow-y-auto">
        {data.takers.map((taker) => (
          <li
            key={taker.id}
            data-taker={taker.name}
            className="flex items-center gap-2 border-t border-line py-1.5"
          >
            <Initials name={taker.name} size={24} />
            <span className="min-w-0 flex-1">
              <b className={taker.fits ? "" : "text-ink-soft"}>{taker.name}</b>
              <span className="block text-[12.5px] text-ink-soft">
                {taker.why}{" "}
                {taker.similar.length > 0 && (
                  <TextButton
                    className="text-[12.5px]"
                    onClick={() =>
                      openBehind({
                        title: `Like ${item.key}, finished by ${taker.name}`,
                        ids: taker.similar,
                      })
                    }
                  >
                    which
                  </TextButton>
                )}
              </span>
            </span>
            <Button
              small
              look={taker.fits ? "accent" : undefined}
              aria-label={`Give it to ${taker.name}`}
              onClick={() => onGive(taker)}
            >
              Give it
            </Button>
          </li>
        ))}
      </ul>
    </>
  );
}
