"use client";
import { useScreenKeys } from "@/ui/kit/use-screen-keys";
import {
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
  type KeyboardEvent as ReactKeyboardEvent,
} from "react";
import type { Card } from "@/core/board/card";
import type { Column } from "@/core/board/column";
import { BRANCH_KEY, copyBranchName } from "@/ui/ship/copy-branch-name";
import type { CardKeys } from "./use-card-acts";
import type { Lane } from "@/core/board/lane";

export const BOARD_KEYS: [string, string][] = [
  ["↑ ↓ ← →", "move the focus between cards"],
  ["Enter", "open the item"],
  ["Esc", "close what is open"],
  ["Space", "pick the card up; arrows choose a column and a lane; Space drops it"],
  ["[ ]", "move the card one part back or on"],
  [".", "the card's actions"],
  ["e", "change the card: its title, who has it, size, priority, due day, labels"],
  ["u", "add to the card: a child, or a bug found in it"],
  ["l", "list what stands under the card, or no more"],
  ["p", "pin the card for me, or no more"],
  ["r", "ready for its next step, or not any more"],
  [BRANCH_KEY, "copy the name of the card’s next branch"],
  ["a", "add at the foot of where the card stands"],
  ["b", "show or hide the backlog"],
  ["n", "new item"],
  ["w", "walk the board together"],
  ["x", "choose the card; with Shift all from the last one to it"],
  ["v", "the board alone on the screen; + and - change its size, v or Esc leave it"],
  ["/", "narrow what is shown"],
  ["c", "show all again"],
  ["f", "values with counts, or away with them"],
  ["?", "this list"],
];

/** The keys of the board that the box offers too. */
const BOARD_OFFERED = {
  n: "New item",
  w: "Walk the board together",
  b: "Show or hide the backlog",
  "/": "Narrow what is shown",
  c: "Show all again",
  "?": "The keys of this screen",
};

interface Options {
  columns: Column[];
  laneList: Lane<Card>[];
  byId: Map<string, Card>;
  mayMove: boolean;
  /** A card as it is shown from now on: the next key may come before it is drawn so. */
  asShown: (card: Card) => Card;
  stands: (card: Card, column: Column) => boolean;
  canEnter: (card: Card, column: Column) => boolean;
  enter: (card: Card, column: Column) => void;
  /** Puts a card down in a lane and a column of it. */
  enterLane: (card: Card, lane: Lane<Card> | undefined, column: Column) => void;
  moveToBacklog: (card: Card) => void;
  openItem: (card: Card) => void;
  choose: (card: Card, run: boolean) => void;
  onCard: CardKeys;
  addBelow: (card: Card) => void;
  markReady: (card: Card, on: boolean) => void;
  onFilter: () => void;
  onShowAll: () => void;
  onHelp: () => void;
  onNew: () => void;
  onBacklog: () => void;
  /** Undefined where the board is not walked. */
  onWalk: (() => void) | undefined;
}

/**
 * Everything on the board by keyboard. One card has the focus; it is found by where cards are on
 * the screen.
 */
export function useBoardKeys(options: Options) {
  const { columns, laneList, byId, mayMove } = options;
  const [focus, setFocus] = useState<string | null>(null);
  const [picked, setPicked] = useState<Picked | null>(null);
  const [says, setSays] = useState("");
  // A card that moves is drawn anew in another place; if it had the focus it keeps it, before the
  // next key can come.
  const hadFocus = useRef(false);
  useLayoutEffect(() => {
    if (!hadFocus.current || document.activeElement !== document.body || !focus) return;
    document.querySelector<HTMLElement>(`[data-card="${focus}"]`)?.focus({ preventScroll: false });
  });
  useEffect(() => {
    const leave = () => (hadFocus.current = false);
    window.addEventListener("pointerdown", leave);
    return () => window.removeEventListener("pointerdown", leave);
  }, []);
  const firstId = laneList.flatMap((l) => l.items)[0]?.id ?? null;
  const focusId = focus && byId.has(focus) ? focus : firstId;

  useScreenKeys(
    {
      "/": options.onFilter,
      c: options.onShowAll,
      "?": options.onHelp,
      n: options.onNew,
      b: options.onBacklog,
      w: options.onWalk,
    },
    { part: "board", words: BOARD_OFFERED },
  );

  const columnAt = (card: Card) => columns.findIndex((c) => options.stands(card, c));

  /**
   * The nearest column on one side that the card may move to; otherwise the next one, whose refusal
   * says why not.
   */
  const neighbour = (card: Card, by: 1 | -1): Column | undefined => {
    const at = columnAt(card);
    for (let i = at + by; i >= 0 && i < columns.length; i += by)
      if (options.canEnter(card, columns[i])) return columns[i];
    return columns[at + by];
  };

  /** What keys do to a card wherever it stands, and whoever looks. */
  const ofCard: Record<string, (card: Card) => void> = {
    a: options.addBelow,
    e: options.onCard.change,
    u: options.onCard.addTo,
    l: options.onCard.listChildren,
    p: options.onCard.pin,
    [BRANCH_KEY]: ({ key }) => void copyBranchName(key),
    ".": options.onCard.openActions,
  };

  const onKey = (event: ReactKeyboardEvent<HTMLElement>, drawn: Card) => {
    const card = options.asShown(drawn);
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const { key } = event;
    const handled = () => {
      event.preventDefault();
      event.stopPropagation();
    };
    if (picked) {
      const next = carried(picked, key, { columns, laneList });
      if (next) {
        handled();
        setPicked({ ...picked, columnId: next.column.id, laneId: next.lane?.id ?? picked.laneId });
        setSays(next.says);
      } else if (key === " " || key === "Enter") {
        handled();
        setPicked(null);
        const column = columns.find(({ id }) => id === picked.columnId);
        const lane = laneList.find(({ id }) => id === picked.laneId);
        if (column) options.enterLane(card, lane, column);
      } else if (key === "Escape") {
        handled();
        setPicked(null);
        setSays("Left where it was");
      }
      return;
    }
    if (key.startsWith("Arrow")) {
      handled();
      nextInDirection(event.currentTarget, key)?.focus();
    } else if (key === "Enter") {
      handled();
      options.openItem(card);
    } else if (key === "x" || key === "X") {
      handled();
      options.choose(card, key === "X");
    } else if (Object.hasOwn(ofCard, key)) {
      handled();
      ofCard[key](card);
    } else if (key === "r" && mayMove) {
      handled();
      options.markReady(card, card.readySince === null);
    } else if (key === " " && mayMove) {
      handled();
      const column = columns[Math.max(0, columnAt(card))];
      const lane = laneList.find(({ items }) => items.some(({ id }) => id === card.id));
      setPicked({ cardId: card.id, columnId: column.id, laneId: lane?.id ?? laneList[0].id });
      setSays(`${card.key} picked up`);
    } else if ((key === "[" || key === "]") && mayMove) {
      handled();
      const column = neighbour(card, key === "]" ? 1 : -1);
      if (column) options.enter(card, column);
      // Left of the first column is the backlog.
      else if (key === "[") options.moveToBacklog(card);
    }
  };
  const onFocus = (card: Card) => {
    hadFocus.current = true;
    setFocus(card.id);
  };
  return { focusId, picked, says, onKey, onFocus };
}

/** A card that was picked up by keys, and over which place it is held. */
interface Picked {
  cardId: string;
  columnId: string;
  laneId: string;
}

/** Where a picked card is held after a key; null where the key means no other place. */
function carried(
  { columnId, laneId }: Picked,
  key: string,
  { columns, laneList }: Pick<Options, "columns" | "laneList">,
): { column: Column; lane: Lane<Card> | undefined; says: string } | null {
  const [at, laneAt] = [
    columns.findIndex(({ id }) => id === columnId),
    laneList.findIndex(({ id }) => id === laneId),
  ];
  const aside = { ArrowLeft: -1, ArrowRight: 1 }[key] ?? 0;
  const down = { ArrowUp: -1, ArrowDown: 1 }[key] ?? 0;
  const column = columns[at + aside];
  const lane = laneList[laneAt + down];
  if ((aside === 0 && down === 0) || !column || (down !== 0 && !lane)) return null;
  return { column, lane, says: down === 0 ? `${column.stage}, ${column.name}` : lane.name };
}

/**
 * The card that stands next in a direction: in line with this one if there is one, else the
 * nearest.
 */
function nextInDirection(from: HTMLElement, key: string): HTMLElement | null {
  const a = from.getBoundingClientRect();
  const sideways = key === "ArrowLeft" || key === "ArrowRight";
  const sign = key === "ArrowRight" || key === "ArrowDown" ? 1 : -1;
  let best: HTMLElement | null = null;
  let least = Infinity;
  for (const other of document.querySelectorAll<HTMLElement>("[data-card]")) {
    if (other === from) continue;
    const b = other.getBoundingClientRect();
    const ahead = sideways
      ? sign * (b.left + b.width / 2 - a.left - a.width / 2)
      : sign * (b.top + b.height / 2 - a.top - a.height / 2);
    if (ahead < 8) continue;
    const aside = sideways ? Math.abs(b.top - a.top) : Math.abs(b.left - a.left);
    if (!sideways && aside > a.width / 2) continue;
    const distance = sideways ? ahead * 4 + aside : ahead + aside * 4;
    if (distance < least) {
      least = distance;
      best = other;
    }
  }
  return best;
}
