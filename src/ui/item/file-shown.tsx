"use client";
import { useQuery } from "@tanstack/react-query";
import { counted } from "@/core/formats/counted";
import { Picture } from "@/ui/kit/picture";
import { PdfShown } from "./pdf-shown";
import { SpotLayer } from "./spot-layer";
import type { ItemHandle } from "./use-item";

/** So many letters of a text are shown in place. */
const MOST_SHOWN = 100_000;

/** How a file is shown in place. */
export type ShownAs = "picture" | "text" | "pages";

/** How a file can be shown in place; null where it can only be saved. */
export function shownAs(mediaType: string, drawable: boolean): ShownAs | null {
  if (mediaType.startsWith("image/")) return drawable ? "picture" : null;
  if (mediaType === "application/pdf") return "pages";
  return mediaType === "text/plain" ? "text" : null;
}

/** A file as it is: a picture or pages, with the remarks on them, or the words of a text. */
export function FileShown({
  handle,
  file: { id, name },
  address,
  words,
  as,
  startPage,
}: {
  handle: ItemHandle;
  file: { id: string; name: string };
  address: string;
  /** Reads it, where it is a text. */
  words: () => Promise<string>;
  as: ShownAs;
  startPage: number;
}) {
  if (as === "text") return <TextShown address={address} name={name} words={words} />;
  if (as === "picture")
    return (
      <SpotLayer handle={handle} fileId={id} page={null}>
        <Picture src={address} alt={name} className="file-picture" />
      </SpotLayer>
    );
  return (
    <PdfShown
      address={address}
      name={name}
      startPage={startPage}
      around={(page, drawn) => (
        <SpotLayer key={page} handle={handle} fileId={id} page={page}>
          {drawn}
        </SpotLayer>
      )}
    />
  );
}

function TextShown({
  address,
  name,
  words,
}: {
  address: string;
  name: string;
  words: () => Promise<string>;
}) {
  const { data, isError } = useQuery({
    queryKey: ["text of a file", address],
    queryFn: words,
    staleTime: Infinity,
  });
  if (isError) return <p className="text-alarm">{name} cannot be read now. Try to save it.</p>;
  if (data === undefined) return <p className="text-ink-soft">Reading …</p>;
  const cut = data.length > MOST_SHOWN;
  return (
    <>
      <pre className="file-text" tabIndex={0} aria-label={name}>
        {cut ? data.slice(0, MOST_SHOWN) : data}
      </pre>
      {cut && (
        <p className="text-[12.5px] text-ink-soft">
          The first {counted(MOST_SHOWN, "letter")} of it; save it for the rest.
        </p>
      )}
    </>
  );
}
