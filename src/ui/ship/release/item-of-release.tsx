"use client";
import { usePanel } from "@/ui/kit/panel-context";
import { TypeGlyph } from "@/ui/kit/type-glyph";

/** What an item of a release is called; a press opens it. */
export function ItemOfRelease({
  row: { key, title, typeId },
}: {
  row: { key: string; title: string; typeId: string };
}) {
  const { openItem } = usePanel();
  return (
    <button type="button" className="against-item" onClick={() => openItem(key)}>
      <TypeGlyph typeId={typeId} />
      <span className="key shrink-0">{key}</span>
      <span className="truncate font-semibold">{title}</span>
    </button>
  );
}
