"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { counted } from "@/core/formats/counted";
import { itemContract } from "@/core/item/contract";
import type { FreePlacesView } from "@/core/item/terms/view";
import { keyOf, queryOf } from "@/ui/kit/request";
import { ofDesign, useReadAgain } from "@/ui/kit/use-read-again";
import { Select } from "@/ui/kit/select";
import { tellProblem } from "@/ui/kit/notice";
import { Table } from "@/ui/kit/table";
import { useBulk } from "@/ui/bulk/use-bulk";
import { useTermEdit, useTerms, useTermsFollowed } from "./use-terms";

/** Read again when items or parts change. */
function useFreePlaces(projectKey: string): FreePlacesView["places"] {
  const client = useQueryClient();
  const params = { key: projectKey };
  const { data } = useQuery(queryOf(itemContract.freePlaces, { params }));
  useReadAgain(
    (message) => message.kind === "item" || ofDesign(message),
    () => client.invalidateQueries({ queryKey: keyOf(itemContract.freePlaces, { params }) }),
  );
  return data?.places ?? [];
}

/**
 * Places as people write them that belong to no part yet: a lead says to which each belongs. Its
 * items get that part, what comes from there later is suggested it; the place stays as it was
 * written.
 */
export function PlacesToParts({ projectKey }: { projectKey: string }) {
  const { terms, rights } = useTerms(projectKey);
  const places = useFreePlaces(projectKey);
  useTermsFollowed(projectKey);
  const send = useTermEdit(projectKey);
  const bulk = useBulk(projectKey);
  const parts = terms.filter(({ kind, endedAt }) => kind === "part" && endedAt === null);
  if (!rights.edit || places.length === 0) return null;
  const put = async (place: string, name: string) => {
    const before = parts.find((part) => part.name === name)?.places ?? [];
    const kept = await send({ kind: "describe", of: "part", name, places: [...before, place] });
    if (!kept) return;
    try {
      await bulk.start(
        {
          board: null,
          condition: { kind: "compare", fact: "place", op: "is", value: place },
        },
        { kind: "part", add: [name], remove: [] },
      );
    } catch (error) {
      tellProblem(error);
    }
  };
  return (
    <section aria-label="Places that belong to no part">
      <h2 className="text-[15px]">Places that belong to no part</h2>
      <p className="mb-1 text-[12.5px] text-ink-soft">
        As people wrote them on items. Say to which part each belongs: its items get that part, and
        reports from there are suggested it. The place itself stays as it was written.
      </p>
      {parts.length === 0 ? (
        <p className="py-2 text-ink-soft">Make the first part: then places can be put to it.</p>
      ) : (
        <Table
          label="Places that belong to no part"
          className="max-w-[720px]"
          rows={places}
          keyOf={({ place }) => place}
          columns={[
            { head: "Place", cell: ({ place }) => place },
            { head: "Items", figures: true, cell: ({ items }) => items },
            { head: "Open", figures: true, cell: ({ open }) => open },
            {
              head: "Belongs to",
              cell: ({ place, items }) => (
                <Select
                  className="!w-[220px]"
                  label={`${place}, ${counted(items, "item")}, belongs to`}
                  value=""
                  placeholder="no part"
                  options={parts.map(({ name }) => ({ value: name, label: name }))}
                  onChange={(name) => void put(place, name)}
                />
              ),
            },
          ]}
        />
      )}
    </section>
  );
}
