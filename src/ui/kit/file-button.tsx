"use client";
import { useRef, type ReactNode } from "react";

/** A sign that lets files be chosen. */
export function FileButton({
  label,
  title,
  onFiles,
  children,
}: {
  label: string;
  title?: string;
  onFiles: (files: File[]) => void;
  children: ReactNode;
}) {
  const picker = useRef<HTMLInputElement>(null);
  return (
    <>
      <button
        type="button"
        aria-label={label}
        title={title ?? label}
        onClick={() => picker.current?.click()}
      >
        {children}
      </button>
      <input
        ref={picker}
        type="file"
        multiple
        hidden
        onChange={(event) => {
          onFiles([...(event.target.files ?? [])]);
          event.target.value = "";
        }}
      />
    </>
  );
}
