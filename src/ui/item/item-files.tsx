"use client";
import { FileText, Image as Picture, Paperclip, Trash2 } from "lucide-react";
import { useState } from "react";
import { fileSize } from "@/core/formats/file-size";
import { addressOf } from "@/core/contract/contract";
import { itemContract } from "@/core/item/contract";
import { reportContract } from "@/core/intake/contract";
import { itemFileAddress, type ItemFileView } from "@/core/item/item-file";
import { TextButton } from "@/ui/kit/button";
import { FilePick } from "@/ui/kit/file-pick";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { readText } from "@/ui/kit/request";
import { ago } from "@/ui/kit/time";
import { FileShown } from "./file-shown";
import { RemoveFile } from "./remove-file";
import { sendCommand } from "./send-command";
import type { ItemHandle } from "./use-item";
import { useUploads } from "./use-uploads";

/** The files of an item: those put to it, and those that came with its reports. */
export function ItemFiles({ handle }: { handle: ItemHandle }) {
  const { view, reload } = handle;
  const { files, reports, rights, withdrawn } = view;
  const { onTheWay, send } = useUploads(view.key, reload);
  const [going, setGoing] = useState<ItemFileView | null>(null);
  const may = rights.edit && withdrawn === null;
  const reported = reports.flatMap((report) =>
    report.files.map((file) => ({ ...file, reportId: report.id, reference: report.reference })),
  );
  if (!may && files.length + reported.length === 0) return null;
  const remove = async (file: ItemFileView) => {
    try {
      await handle.send({ kind: "remove file", fileId: file.id });
    } catch (error) {
      return tellProblem(error);
    }
    tellDone(`${file.name} is taken off.`, async () => {
      await sendCommand(view.item.id, { kind: "put file back", fileId: file.id });
      await reload();
    });
  };
  return (
    <section aria-label="Files">
      <h3 className="mb-1 text-[13px]">
        Files{" "}
        {files.length > 0 && <span className="font-normal text-ink-soft">{files.length}</span>}
      </h3>
      <ul>
        {files.map((file) => (
          <FileLine
            key={file.id}
            file={file}
            address={itemFileAddress(view.key, file.id)}
            words={() => readText(itemContract.file, { params: { key: view.key, file: file.id } })}
            about={`${fileSize(file.size)} · ${file.by}, ${ago(file.at, Math.max(view.now, file.at))}`}
            onRemove={may ? () => void remove(file) : undefined}
            onEmpty={rights.moderate ? () => setGoing(file) : undefined}
          />
        ))}
        {reported.map((file) => (
          <FileLine
            key={file.id}
            file={file}
            address={addressOf(reportContract.file, {
              params: { id: file.reportId, file: file.id },
            })}
            words={() =>
              readText(reportContract.file, { params: { id: file.reportId, file: file.id } })
            }
            about={`came with ${file.reference}`}
          />
        ))}
        {onTheWay.map(({ id, name, part, stop }) => (
          <li key={id} className="file-line" aria-live="polite">
            <Paperclip size={16} aria-hidden="true" />
            <span className="truncate">{name}</span>
            <progress value={part} max={1} aria-label={`Sending ${name}`} />
            <TextButton aria-label={`Stop sending ${name}`} onClick={stop}>
              Stop
            </TextButton>
          </li>
        ))}
      </ul>
      <RemoveFile handle={handle} file={going} onDone={() => setGoing(null)} />
      {may && (
        <FilePick
          multiple
          names={false}
          label="Put files to it"
          words="Put files to it"
          onFiles={send}
        />
      )}
    </section>
  );
}

type Shown = Pick<ItemFileView, "name" | "mediaType"> & Partial<Pick<ItemFileView, "picture">>;

/** One file: a look at it, its name, which saves it, and what it is. */
function FileLine({
  file,
  address,
  words,
  about,
  onRemove,
  onEmpty,
}: {
  file: Shown;
  address: string;
  /** Reads it, where it is a text. */
  words: () => Promise<string>;
  about: string;
  onRemove?: () => void;
  onEmpty?: () => void;
}) {
  const [open, setOpen] = useState(false);
  const isPicture = file.mediaType.startsWith("image/") && file.picture !== null;
  const inPlace = isPicture || file.mediaType === "text/plain";
  return (
    <li>
      <div className="file-line">
        {isPicture ? (
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
            {!inPlace && " · cannot be shown here, only saved"}
          </span>
        </span>
        {inPlace && (
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
      {open && <FileShown address={address} words={isPicture ? null : words} name={file.name} />}
    </li>
  );
}
