"use client";
import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { peopleContract } from "@/core/people/contract";
import { TextButton } from "@/ui/kit/button";
import { FilePick } from "@/ui/kit/file-pick";
import { Initials } from "@/ui/kit/initials";
import { FormProblem } from "@/ui/kit/note";
import { tellDone } from "@/ui/kit/notice";
import { usePictureOf } from "@/ui/kit/people-pictures";
import { ask, keyOf, problemWords, problemOf } from "@/ui/kit/request";
import { smallSquare, squareOf } from "./small-square";

/** One's own picture: chosen, made a small square, shown wherever one's letters would stand. */
export function PictureForm({ name }: { name: string }) {
  const client = useQueryClient();
  const picture = usePictureOf(name);
  const section = useRef<HTMLElement>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const readAgain = () =>
    client.invalidateQueries({ queryKey: keyOf(peopleContract.pictures, {}) });
  const send = async (square: Blob) => {
    await ask(peopleContract.setPicture, {}, { bytes: square });
    await readAgain();
    tellDone("This is your picture now.");
  };
  const choose = async (file: File | undefined) => {
    if (!file || busy) return;
    setProblem(null);
    setBusy(true);
    const square = await smallSquare(file);
    try {
      if (square) await send(square);
      else
        setProblem(
          `${file.name} is no picture that can be drawn: choose a PNG, a JPEG, a GIF or a WebP.`,
        );
    } catch (error) {
      setProblem(problemWords(problemOf(error)));
    }
    setBusy(false);
  };
  const remove = async () => {
    setProblem(null);
    const shown = section.current?.querySelector("img");
    const before = shown ? await squareOf(shown) : null;
    try {
      await ask(peopleContract.removePicture, {});
      await readAgain();
      tellDone("Your letters stand for you again.", before ? () => send(before) : undefined);
    } catch (error) {
      setProblem(problemWords(problemOf(error)));
    }
  };
  return (
    <section ref={section} aria-label="Your picture" className="sheet flex items-center gap-3 p-5">
      <Initials name={name} size={56} strong />
      <div className="flex min-w-0 flex-1 flex-col gap-2">
        <p className="text-[13px] text-ink-soft">
          The middle of the picture that you choose, in a circle, wherever your letters would stand.
        </p>
        <div className="flex flex-wrap items-center gap-3">
          <FilePick
            label="A picture of you"
            words={picture ? "Another picture" : "Choose a picture"}
            accept="image/*"
            names={false}
            disabled={busy}
            onFiles={([file]) => void choose(file)}
          />
          {picture && <TextButton onClick={() => void remove()}>Take it away</TextButton>}
        </div>
        <FormProblem>{problem}</FormProblem>
      </div>
    </section>
  );
}
