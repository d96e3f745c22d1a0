import { Sheet } from "@/ui/intake/public-sheet";

/** An address of no report, as where a mail program broke it. */
export default function NoSuchReport() {
  return (
    <Sheet projectName="">
      <h1 className="text-[24px] leading-tight">This page cannot be found</h1>
      <p className="mt-2">
        Every report has a page of its own, with a long address. Mail programs sometimes break it:
        copy all of it from the mail that we sent you.
      </p>
      <p className="mt-2">
        If the mail is gone, answer to any mail of ours, or send your report once more. A report
        whose time to be kept is over has no page any more.
      </p>
    </Sheet>
  );
}
