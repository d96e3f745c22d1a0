"use client";
import { fileSize } from "@/core/formats/file-size";

/** What came with a report: pictures to look at, everything else to save. */
export function FileList({
  files,
  addressOf,
}: {
  files: { id: string; name: string; picture: boolean; size?: number }[];
  addressOf: (fileId: string) => string;
}) {
  if (files.length === 0) return null;
  return (
    <ul className="flex flex-col gap-2">
      {files.map((f) => (
        <li key={f.id}>
          {f.picture ? (
            // A picture from outside, served by our own route; the optimiser has no part in it.
            // eslint-disable-next-line @next/next/no-img-element
            <img
              src={addressOf(f.id)}
              alt={f.name}
              className="max-h-72 max-w-full border border-line"
            />
          ) : (
            <a className="link" href={addressOf(f.id)} download={f.name}>
              Save {f.name}
              {f.size !== undefined && <span className="text-ink-soft"> ({fileSize(f.size)})</span>}
            </a>
          )}
        </li>
      ))}
    </ul>
  );
}
