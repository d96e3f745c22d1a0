"use client";
import { useQuery } from "@tanstack/react-query";
import { counted } from "@/core/formats/counted";

/** So many letters of a text are shown in place. */
const MOST_SHOWN = 100_000;

/** A file as it is: a picture, or the words of a text. */
export function FileShown({
  address,
  name,
  words,
}: {
  address: string;
  name: string;
  /** Reads it; null where it is a picture. */
  words: (() => Promise<string>) | null;
}) {
  if (words === null)
    return (
      // A picture of people's own: nothing of it is known before it is here.
      // eslint-disable-next-line @next/next/no-img-element
      <img src={address} alt={name} className="file-picture" />
    );
  return <TextShown address={address} name={name} words={words} />;
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
