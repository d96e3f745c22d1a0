import fc from "fast-check";
import { cardOf, type Card } from "@/core/board/card";
import type { BoardView } from "@/core/board/board-view";
import { packedBoard, unpackedBoard } from "@/core/board/packed-board";
import { plainItem } from "./setup/make";

const board = (cards: Card[]) => ({ now: 7, cards, limits: [] }) as unknown as BoardView;

describe("a board as text", () => {
  test("comes out as it went in, card by card and in their order", () => {
    const anyCard = fc
      .record({
        title: fc.string(),
        estimate: fc.option(fc.integer()),
        labels: fc.array(fc.string()),
        own: fc.dictionary(fc.string(), fc.oneof(fc.string(), fc.integer())),
        number: fc.nat(),
      })
      .map((says) => JSON.parse(JSON.stringify(cardOf({ ...plainItem, ...says }, "TIX"))) as Card);
    fc.assert(
      fc.property(fc.array(anyCard), (cards) => {
        expect(unpackedBoard(packedBoard(board(cards)))).toEqual(board(cards));
      }),
    );
  });

  test("names no field once for each card", () => {
    const cards = Array.from({ length: 50 }, () => cardOf(plainItem, "TIX"));
    expect(packedBoard(board(cards)).split("assigneeId")).toHaveLength(1);
  });
});
