"use client";
import { Upload } from "lucide-react";
import { useState, type DragEvent } from "react";
import { counted } from "@/core/formats/counted";

/** Files to take along: chosen with the button, or dropped on it. */
export function FilePick({
  onFiles,
  label,
  words = "Choose a file",
  accept,
  multiple,
  disabled,
  names: showsNames = true,
  ...rest
}: {
  onFiles: (files: File[]) => void;
  /** What it is called where no label stands around it. */
  label?: string;
  words?: string;
  accept?: string;
  multiple?: boolean;
  disabled?: boolean;
  /** Whether it says what was chosen; a list beside it may. */
  names?: boolean;
  id?: string;
  name?: string;
  required?: boolean;
  "aria-describedby"?: string;
  "aria-invalid"?: boolean;
}) {
  const [names, setNames] = useState<string[]>([]);
  const [over, setOver] = useState(false);
  const take = (files: File[]) => {
    setNames(files.map((file) => file.name));
    onFiles(files);
  };
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const files = [...event.dataTransfer.files];
    if (files.length > 0 && !disabled) take(multiple ? files : files.slice(0, 1));
  };
  return (
    <span
      className="file-pick"
      data-over={over || undefined}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <input
        {...rest}
        type="file"
        aria-label={label}
        accept={accept}
        multiple={multiple}
        disabled={disabled}
        onChange={(event) => {
          take([...(event.target.files ?? [])]);
          // What is kept elsewhere can be chosen once more after it was taken out there.
          if (!showsNames) event.target.value = "";
        }}
      />
      <span className="button button-small" aria-hidden="true">
        <Upload size={14} /> {words}
      </span>
      <span className="min-w-0 truncate font-normal text-ink-soft" title={names.join("\n")}>
        {(names.length === 0 || !showsNames) && `or drop ${multiple ? "them" : "it"} here`}
        {showsNames && names.length === 1 && names[0]}
        {showsNames && names.length > 1 && `${counted(names.length, "file")}: ${names.join(", ")}`}
      </span>
    </span>
  );
}
