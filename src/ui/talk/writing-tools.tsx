"use client";
import {
  Bold,
  Code,
  Italic,
  Link2,
  List,
  ListChecks,
  ListOrdered,
  Paperclip,
  Quote,
} from "lucide-react";
import { FileButton } from "@/ui/kit/file-button";
import { around, before, link, type Marked } from "@/core/talk/markup";

interface Tool {
  name: string;
  sign: typeof Bold;
  /** With Ctrl or Cmd. */
  key?: string;
  change: (marked: Marked) => Marked;
}

const TOOLS: readonly Tool[] = [
  { name: "Strong", sign: Bold, key: "b", change: (at) => around(at, "strong") },
  { name: "Slanted", sign: Italic, key: "i", change: (at) => around(at, "slanted") },
  { name: "As it is", sign: Code, key: "e", change: (at) => around(at, "code") },
  { name: "Link", sign: Link2, change: link },
  { name: "List", sign: List, change: (at) => before(at, "list") },
  { name: "Numbers", sign: ListOrdered, change: (at) => before(at, "numbers") },
  { name: "To tick", sign: ListChecks, change: (at) => before(at, "ticks") },
  { name: "Quoted", sign: Quote, change: (at) => before(at, "quote") },
];

export const toolOfKey = (key: string): Tool | undefined =>
  TOOLS.find((tool) => tool.key === key.toLowerCase());

/** Signs that put in what Markdown writes, for those who do not know it. */
export function WritingTools({
  onTool,
  onFiles,
}: {
  onTool: (change: Tool["change"]) => void;
  onFiles?: (files: File[]) => void;
}) {
  return (
    <div role="toolbar" aria-label="How it is written" className="writing-tools">
      {TOOLS.map(({ name, sign: Sign, key, change }) => (
        <button
          key={name}
          type="button"
          aria-label={name}
          title={key ? `${name}, Ctrl ${key.toUpperCase()}` : name}
          // The field keeps what is marked in it.
          onMouseDown={(event) => event.preventDefault()}
          onClick={() => onTool(change)}
        >
          <Sign size={14} aria-hidden="true" />
        </button>
      ))}
      {onFiles && (
        <FileButton
          label="Put a file in"
          title="Put a file in; pasting or dropping one does it too"
          onFiles={onFiles}
        >
          <Paperclip size={14} aria-hidden="true" />
        </FileButton>
      )}
    </div>
  );
}
