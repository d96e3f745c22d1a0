"use client";
import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { peopleContract } from "@/core/people/contract";
import type { PictureAddresses } from "@/core/people/picture";
import { PeoplePictures } from "@/ui/kit/people-pictures";
import { queryOf } from "@/ui/kit/request";

/** Shows people by their pictures in all that stands in it. */
export function KnownPictures({
  first,
  children,
}: {
  first: PictureAddresses;
  children: ReactNode;
}) {
  const { data } = useQuery({
    ...queryOf(peopleContract.pictures, {}),
    initialData: first,
    staleTime: Infinity,
  });
  return <PeoplePictures.Provider value={data}>{children}</PeoplePictures.Provider>;
}
