"use client";
import { createContext, useContext } from "react";
import type { PictureAddresses } from "@/core/people/picture";

/** Where the pictures of people are, for whatever shows people by their names. */
export const PeoplePictures = createContext<PictureAddresses>({});

/** Where the picture of somebody is; undefined where there is none. */
export const usePictureOf = (name: string): string | undefined => {
  const pictures = useContext(PeoplePictures);
  return Object.hasOwn(pictures, name) ? pictures[name] : undefined;
};
