"use client";
import { useEffect, useRef, useState, type ReactNode } from "react";
import type { PDFDocumentLoadingTask, PDFDocumentProxy } from "pdfjs-dist";
import { Button } from "@/ui/kit/button";

/** So wide a page is drawn, in pixels of the page that it stands on. */
const WIDTH = 900;
/** A page of more picture points than this is drawn smaller. */
const MOST_POINTS = 6_000_000;

/** A document, a page at a time. */
export function PdfShown({
  address,
  name,
  startPage,
  around,
}: {
  address: string;
  name: string;
  /** From 1. */
  startPage: number;
  /** What a page stands in. */
  around: (page: number, drawn: ReactNode) => ReactNode;
}) {
  const { found, failed } = usePdf(address);
  const [wanted, setWanted] = useState(startPage);
  const [broken, setBroken] = useState(false);
  if (failed || broken)
    return <p className="text-alarm">{name} cannot be shown here. Save it to read it.</p>;
  if (!found) return <p className="p-3 text-ink-soft">Reading …</p>;
  const page = Math.min(wanted, found.numPages);
  return (
    <>
      {found.numPages > 1 && (
        <div className="flex items-center gap-2 py-1 text-[13px]">
          <Button small disabled={page === 1} onClick={() => setWanted(page - 1)}>
            Page before
          </Button>
          <span className="tabular-nums">
            {page} of {found.numPages}
          </span>
          <Button small disabled={page === found.numPages} onClick={() => setWanted(page + 1)}>
            Next page
          </Button>
        </div>
      )}
      {around(
        page,
        <PdfPage
          document={found}
          page={page}
          label={`Page ${page} of ${name}`}
          onBroken={() => setBroken(true)}
        />,
      )}
    </>
  );
}

/** Reads a document in a thread of its own; no script in it is run. */
async function openPdf(address: string): Promise<PDFDocumentLoadingTask> {
  const pdf = await import("pdfjs-dist");
  pdf.GlobalWorkerOptions.workerPort ??= new Worker(
    new URL("pdfjs-dist/build/pdf.worker.mjs", import.meta.url),
    { type: "module" },
  );
  return pdf.getDocument({
    url: address,
    isEvalSupported: false,
    enableXfa: false,
    maxImageSize: MOST_POINTS * 8,
    disableRange: true,
    disableStream: true,
  });
}

function usePdf(address: string): { found: PDFDocumentProxy | null; failed: boolean } {
  const [found, setFound] = useState<PDFDocumentProxy | null>(null);
  const [failed, setFailed] = useState(false);
  useEffect(() => {
    let task: PDFDocumentLoadingTask | null = null;
    let left = false;
    openPdf(address)
      .then(async (begun) => {
        task = begun;
        if (left) return void begun.destroy();
        setFound(await begun.promise);
      })
      .catch(() => !left && setFailed(true));
    return () => {
      left = true;
      void task?.destroy();
    };
  }, [address]);
  return { found, failed };
}

function PdfPage({
  document,
  page,
  label,
  onBroken,
}: {
  document: PDFDocumentProxy;
  page: number;
  label: string;
  onBroken: () => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const broken = useRef(onBroken);
  useEffect(() => {
    broken.current = onBroken;
  });
  useEffect(() => {
    let drawing: { cancel: () => void } | null = null;
    let left = false;
    document
      .getPage(page)
      .then((one) => {
        const area = canvas.current;
        if (left || !area) return;
        const plain = one.getViewport({ scale: 1 });
        const wanted = (WIDTH * window.devicePixelRatio) / plain.width;
        const most = Math.sqrt(MOST_POINTS / (plain.width * plain.height));
        const viewport = one.getViewport({ scale: Math.min(wanted, most) });
        area.width = Math.floor(viewport.width);
        area.height = Math.floor(viewport.height);
        const task = one.render({ canvasContext: area.getContext("2d")!, viewport });
        drawing = task;
        return task.promise;
      })
      .catch((error: Error) => {
        if (!left && error.name !== "RenderingCancelledException") broken.current();
      });
    return () => {
      left = true;
      drawing?.cancel();
    };
  }, [document, page]);
  return <canvas ref={canvas} className="file-page" role="img" aria-label={label} />;
}
