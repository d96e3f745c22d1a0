"use client";
import { fileSize } from "@/core/formats/file-size";
import { TextButton } from "./button";
import { FilePick } from "./file-pick";

type PickProps = Omit<Parameters<typeof FilePick>[0], "onFiles" | "multiple">;

/** Files that go along: each chosen one stands below with its size, and can be taken out again. */
export function ChosenFiles({
  files,
  onChange,
  most,
  ...pick
}: PickProps & {
  files: readonly File[];
  onChange: (files: File[]) => void;
  /** So many are taken. */
  most: number;
}) {
  return (
    <div className="flex flex-col gap-1">
      <FilePick
        {...pick}
        multiple
        names={false}
        onFiles={(more) => onChange([...files, ...more])}
      />
      {files.length > 0 && (
        <ul aria-label="Chosen files" className="text-[13px]">
          {files.map((file, i) => (
            <li
              key={`${file.name} ${i}`}
              className="flex items-baseline gap-2 border-b border-line py-1"
            >
              <span className="min-w-0 flex-1 truncate">{file.name}</span>
              <span className="text-ink-soft">{fileSize(file.size)}</span>
              <TextButton
                aria-label={`Take out ${file.name}`}
                onClick={() => onChange(files.filter((_, j) => j !== i))}
              >
                Take out
              </TextButton>
            </li>
          ))}
          <li className="py-1 text-ink-soft">
            {files.length} of at most {most}
          </li>
        </ul>
      )}
    </div>
  );
}
