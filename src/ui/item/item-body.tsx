"use client";
import { useMemo } from "react";
import { listWords } from "@/core/formats/list-words";
import { emptyParts } from "@/core/item/empty-parts";
import { itemFileAddress } from "@/core/item/item-file";
import { PictureSizes } from "@/ui/kit/picture";
import { TalkSection } from "@/ui/talk/talk-section";
import { EditableText } from "./editable-text";
import { AgreedNote } from "./agreed-note";
import { ItemAgreement } from "./item-agreement";
import { ItemBlockers } from "./item-blockers";
import { ItemChildren } from "./item-children";
import { ItemCriteria } from "./item-criteria";
import { ItemFields } from "./item-fields";
import { ItemFiles } from "./item-files";
import { ItemHead } from "./item-head";
import { ItemLinks } from "./item-links";
import { ItemReports } from "./item-reports";
import { OwnFields } from "./own-fields";
import { MoveButtons } from "./move-buttons";
import { useNarrow } from "@/ui/kit/use-narrow";
import type { ItemHandle } from "./use-item";
import { WithdrawnNote } from "./withdrawn-note";
import { ItemCodeSection } from "@/ui/ship/item-code";
import { ItemAcceptanceSection } from "@/ui/ship/acceptance/item-acceptance";
import { ItemTestsSection } from "@/ui/ship/testing/item-tests";
import { ItemTimeSection } from "@/ui/time/item-time";
import { ZigzagFigure } from "./zigzag-figure";

/** Everything about an item, in the panel and on its page. */
export function ItemBody({ handle, wide }: { handle: ItemHandle; wide: boolean }) {
  const { key, files } = handle.view;
  const sizes = useMemo(
    () =>
      new Map(
        files.flatMap(({ id, picture }) => (picture ? [[itemFileAddress(key, id), picture]] : [])),
      ),
    [key, files],
  );
  return (
    <PictureSizes sizes={sizes}>
      <Parts handle={handle} wide={wide} />
    </PictureSizes>
  );
}

/**
 * On the page the zigzag and the next moves stand on top, what it is for and what is said about it
 * in the middle, and the facts beside them.
 */
function Parts({ handle, wide }: { handle: ItemHandle; wide: boolean }) {
  const { view } = handle;
  const narrow = useNarrow();
  const zigzag = (
    <section aria-label="Zigzag">
      <ZigzagFigure
        zigzag={view.zigzag}
        arrivals={view.arrivals}
        stateNames={view.stateNames}
        zone={view.project.zone}
        width={wide && !narrow ? 1216 : 396}
      />
    </section>
  );
  const withdrawn = <WithdrawnNote handle={handle} />;
  if (wide)
    return (
      <div className="flex flex-col gap-4">
        <div className="item-top">
          <ItemHead handle={handle} />
          <MoveButtons handle={handle} />
        </div>
        {withdrawn}
        {zigzag}
        <div className="item-columns">
          <div className="flex min-w-0 flex-col gap-5">
            <ItemBlockers handle={handle} />
            <Texts handle={handle} />
            <ItemFiles handle={handle} />
            <ItemChildren handle={handle} />
            <TalkSection handle={handle} />
          </div>
          <div className="flex min-w-0 flex-col gap-5">
            <ItemAgreement handle={handle} />
            <ItemFields handle={handle} />
            <ItemCodeSection handle={handle} />
            <ItemTestsSection handle={handle} />
            <ItemAcceptanceSection handle={handle} />
            <OwnFields handle={handle} />
            <ItemTimeSection handle={handle} />
            <ItemReports handle={handle} />
            <ItemLinks handle={handle} />
          </div>
        </div>
      </div>
    );
  return (
    <div className="flex flex-col gap-4">
      <ItemHead handle={handle} />
      {withdrawn}
      <MoveButtons handle={handle} />
      <ItemAgreement handle={handle} />
      <ItemBlockers handle={handle} />
      {zigzag}
      <Texts handle={handle} />
      <ItemFields handle={handle} />
      <ItemCodeSection handle={handle} />
      <ItemTestsSection handle={handle} />
      <ItemAcceptanceSection handle={handle} />
      <OwnFields handle={handle} />
      <ItemTimeSection handle={handle} />
      <ItemFiles handle={handle} />
      <ItemChildren handle={handle} />
      <ItemReports handle={handle} />
      <ItemLinks handle={handle} />
      <TalkSection handle={handle} />
    </div>
  );
}

/** Which parts of its type's starting text nobody has written yet. */
function StillEmpty({ view }: { view: ItemHandle["view"] }) {
  const { item, types, withdrawn } = view;
  const template = types.find(({ id }) => id === item.typeId)?.template ?? "";
  const parts = emptyParts(item.description, template);
  if (parts.length === 0 || item.stateKind === "finished" || withdrawn !== null) return null;
  return (
    <p className="-mt-2 text-[12.5px] text-ink-soft">
      <b className="text-signal-ink">Still empty:</b> {listWords(parts, "and")}
    </p>
  );
}

/** What it is for, and how one sees that it works. */
function Texts({ handle }: { handle: ItemHandle }) {
  const { view, edit } = handle;
  const { item } = view;
  const attachesTo = { itemKey: view.key, onThere: handle.reload };
  /** The next move that wants a word on how to test it. */
  const demanding = view.transitions.find((t) =>
    t.requirements.some((r) => r.kind === "filled" && r.field === "howToTest"),
  );
  return (
    <>
      <EditableText
        label="Description"
        value={item.description}
        empty="No description yet."
        mayEdit={view.rights.edit}
        version={item.version}
        known={view.talk}
        attachesTo={attachesTo}
        onSave={(description, seen) => edit({ description }, seen)}
      />
      <StillEmpty view={view} />
      <ItemCriteria handle={handle} />
      <AgreedNote handle={handle} />
      <EditableText
        label="How to test"
        value={item.howToTest ?? ""}
        empty={demanding ? `Not said yet, and “${demanding.verb}” needs it.` : "Not said yet."}
        mayEdit={view.rights.edit}
        version={item.version}
        known={view.talk}
        attachesTo={attachesTo}
        onSave={(text, seen) => edit({ howToTest: text.trim() || null }, seen)}
      />
    </>
  );
}
