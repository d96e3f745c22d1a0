"use client";
import { TextButton } from "@/ui/kit/button";
import { copyText } from "@/ui/kit/copy-text";
import { tellProblem } from "@/ui/kit/notice";
import type { LookHandle } from "./use-look";

/** Gives a link to what is looked at. */
export function LinkButton({ handle }: { handle: LookHandle }) {
  const copy = async () => {
    try {
      await copyText(await handle.link(), "The link to this is copied.");
    } catch (error) {
      tellProblem(error);
    }
  };
  return <TextButton onClick={() => void copy()}>copy the link</TextButton>;
}
