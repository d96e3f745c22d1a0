"use client";
import { FileQuestion, MapPin, MessageSquare, PanelsTopLeft, UserRound } from "lucide-react";
import { filterOf } from "@/core/view/filter";
import { lookPath } from "@/core/view/look-path";
import { nameParts } from "@/core/find/excerpt";
import type { Found, FoundItem } from "@/core/find/found";
import { projectKeyOf } from "@/core/item/key";
import { shortDate } from "@/ui/kit/time";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { inOrderOfFit, type Line, type LineGroup } from "./lines";

interface Ways {
  words: readonly string[];
  /** Key of the project, or the place above the projects, in which one is. */
  at: string;
  go: (path: string) => void;
  openItem: (key: string) => void;
  /** Goes on to what can be done with an item. */
  intoItem: (key: string) => void;
  readMore: (() => Promise<void>) | null;
}

const itemPath = (key: string): string => `/p/${projectKeyOf(key)}/items/${key}`;

function itemLines(items: readonly FoundItem[], ways: Ways): Line[] {
  const lines = items.map(({ id, key, title, stateName, assignee, typeId, fit, excerpt }): Line => {
    return {
      id: `item-${id}`,
      fit,
      lead: (
        <>
          <TypeGlyph typeId={typeId} />
          <span className="key">{key}</span>
        </>
      ),
      words: nameParts(title, ways.words),
      more: assignee === null ? stateName : `${stateName} · ${assignee}`,
      excerpt,
      run: () => ways.openItem(key),
      into: () => ways.intoItem(key),
    };
  });
  const { readMore } = ways;
  if (readMore === null) return lines;
  const more: Line = {
    id: "items-more",
    fit: 4,
    lead: null,
    words: [{ text: "More items", hit: false }],
    run: () => void readMore(),
    stays: true,
  };
  return [...lines, more];
}

/** All that was found, in groups, the best first. */
export function foundGroups(
  { comments, reports, people, looks, places }: Found,
  items: readonly FoundItem[],
  ways: Ways,
  acts: readonly LineGroup[],
): LineGroup[] {
  const { words, go } = ways;
  return inOrderOfFit([
    { title: "Items", lines: itemLines(items, ways) },
    ...acts,
    {
      title: "Reports",
      lines: reports.map(({ id, reference, projectKey, title, status, fit, excerpt }) => ({
        id: `report-${id}`,
        fit,
        lead: (
          <>
            <FileQuestion size={15} aria-hidden="true" />
            <span className="key">{reference}</span>
          </>
        ),
        words: nameParts(title, words),
        more: status,
        excerpt,
        run: () => go(`/p/${projectKey}/intake?report=${encodeURIComponent(reference)}`),
      })),
    },
    {
      title: "People",
      lines: people.map(({ id, name, calling, fit }) => ({
        id: `person-${id}`,
        fit,
        lead: <UserRound size={15} aria-hidden="true" />,
        words: nameParts(name, words),
        more: calling === null ? "what they have in hand" : `${calling} · what they have in hand`,
        run: () => go(inHandPath(ways.at, id)),
      })),
    },
    {
      title: "Places",
      lines: places.map(({ name, of, path, fit }) => ({
        id: `place-${path}-${name}`,
        fit,
        lead: <MapPin size={15} aria-hidden="true" />,
        words: nameParts(name, words),
        more: of,
        run: () => go(path),
      })),
    },
    {
      title: "Views and boards",
      lines: looks.map(({ id, kind, name, of, path, fit }) => ({
        id: `look-${id}`,
        fit,
        lead: <PanelsTopLeft size={15} aria-hidden="true" />,
        words: nameParts(name, words),
        more: `${kind} · ${of}`,
        run: () => go(path),
      })),
    },
    {
      title: "Comments",
      lines: comments.map(({ id, itemKey, title, author, at, excerpt }) => ({
        id: `comment-${id}`,
        fit: 4,
        lead: (
          <>
            <MessageSquare size={15} aria-hidden="true" />
            <span className="key">{itemKey}</span>
          </>
        ),
        words: excerpt,
        more: `${author} · ${shortDate(new Date(at).toISOString().slice(0, 10))}`,
        excerpt: [{ text: title, hit: false }],
        run: () => go(`${itemPath(itemKey)}#comment-${id}`),
      })),
    },
  ]);
}

/** What somebody works on, as a table where one is. */
function inHandPath(at: string, personId: string): string {
  const filter = filterOf([
    { kind: "compare", fact: "assigneeId", op: "one of", value: [personId] },
    { kind: "compare", fact: "stateKind", op: "one of", value: ["waiting", "working"] },
  ]);
  return lookPath(at, { arrangement: "table", filter });
}
