"use client";
import { Paperclip } from "lucide-react";
import { useEffect, useState } from "react";
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
import { useHash } from "@/ui/kit/use-hash";
import { FileLine } from "./file-line";
import { pageNamed } from "./file-place";
import { RemoveFile } from "./remove-file";
import { sendCommand } from "./send-command";
import type { ItemHandle } from "./use-item";
import { useUploads } from "./use-uploads";

/** The files of an item: those put to it, and those that came with its reports. */
export function ItemFiles({ handle }: { handle: ItemHandle }) {
  const { view, reload } = handle;
  const { files, reports, rights, withdrawn } = view;
  const { onTheWay, send } = useUploads(view.key, reload);
  const { place, turn } = useHash();
  useEffect(() => {
    const line = /^file-[0-9a-f-]{36}/.exec(place);
    if (line) document.getElementById(line[0])?.scrollIntoView({ block: "start" });
  }, [place, turn]);
  const [going, setGoing] = useState<ItemFileView | null>(null);
  const may = rights.edit && withdrawn === null;
  const reported = reports.flatMap((report) =>
    report.files.map((file) => ({ ...file, reportId: report.id, reference: report.reference })),
  );
  if (!may && files.length + reported.length === 0) return null;
  /** One that the address names anew is opened anew. */
  const keyOfLine = ({ id }: { id: string }) =>
    pageNamed(id, place) === null ? id : `${id} ${turn}`;
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
            key={keyOfLine(file)}
            handle={handle}
            file={file}
            named={pageNamed(file.id, place)}
            address={itemFileAddress(view.key, file.id)}
            words={() => readText(itemContract.file, { params: { key: view.key, file: file.id } })}
            about={`${fileSize(file.size)} · ${file.by}, ${ago(file.at, Math.max(view.now, file.at))}`}
            onRemove={may ? () => void remove(file) : undefined}
            onEmpty={rights.moderate ? () => setGoing(file) : undefined}
          />
        ))}
        {reported.map((file) => (
          <FileLine
            key={keyOfLine(file)}
            handle={handle}
            file={file}
            named={pageNamed(file.id, place)}
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
