"use client";
import { FileText, Image as Picture, MapPin, Paperclip, Trash2 } from "lucide-react";
import { useState } from "react";
import { counted } from "@/core/formats/counted";
import type { ItemFileView } from "@/core/item/item-file";
import { TextButton } from "@/ui/kit/button";
import { filePlace } from "./file-place";
import { FileShown, shownAs } from "./file-shown";
import { remarksOn } from "./spot-layer";
import type { ItemHandle } from "./use-item";

type Shown = Pick<ItemFileView, "id" | "name" | "mediaType"> &
  Partial<Pick<ItemFileView, "picture">>;

/** One file: a look at it, its name, which saves it, and what it is. */
export function FileLine({
  handle,
  file,
  named,
  address,
  words,
  about,
  onRemove,
  onEmpty,
}: {
  handle: ItemHandle;
  file: Shown;
  /** The page of it that the address names. */
  named: number | null;
  address: string;
  /** Reads it, where it is a text. */
  words: () => Promise<string>;
  about: string;
  onRemove?: () => void;
  onEmpty?: () => void;
}) {
  const [open, setOpen] = useState(named !== null);
  const as = shownAs(file.mediaType, file.picture !== null);
  const remarks = remarksOn(handle, file.id).length;
  return (
    <li id={filePlace(file.id)}>
      <div className="file-line">
        {as === "picture" ? (
          // A picture of people's own: nothing of it is known before it is here.
          // eslint-disable-next-line @next/next/no-img-element
          <img src={address} alt="" loading="lazy" className="file-thumbnail" />
        ) : file.mediaType.startsWith("text/") ? (
          <FileText size={18} aria-hidden="true" />
        ) : file.mediaType.startsWith("image/") ? (
          <Picture size={18} aria-hidden="true" />
        ) : (
          <Paperclip size={18} aria-hidden="true" />
        )}
        <span className="min-w-0">
          <a className="link block truncate" href={address} download={file.name}>
            {file.name}
          </a>
          <span className="text-[12.5px] text-ink-soft">
            {about}
            {as === null && " · cannot be shown here, only saved"}
            {remarks > 0 && (
              <>
                {" · "}
                <MapPin size={12} className="inline" aria-hidden="true" />{" "}
                {counted(remarks, "remark")}
              </>
            )}
          </span>
        </span>
        {as !== null && (
          <TextButton
            aria-expanded={open}
            aria-label={`${open ? "Hide" : "Show"} ${file.name}`}
            onClick={() => setOpen(!open)}
          >
            {open ? "Hide" : "Show"}
          </TextButton>
        )}
        {onRemove && (
          <TextButton aria-label={`Take off ${file.name}`} onClick={onRemove}>
            Take off
          </TextButton>
        )}
        {onEmpty && (
          <TextButton
            aria-label={`Remove ${file.name} for good`}
            title="Remove it for good"
            onClick={onEmpty}
          >
            <Trash2 size={14} aria-hidden="true" />
          </TextButton>
        )}
      </div>
      {open && as !== null && (
        <FileShown
          handle={handle}
          file={file}
          address={address}
          words={words}
          as={as}
          startPage={named ?? 1}
        />
      )}
    </li>
  );
}
