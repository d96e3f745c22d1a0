import fc from "fast-check";
import { around, before, link, nextLine, type Marked } from "@/core/talk/markup";
import { numberedSpots, spotMoved } from "@/core/talk/spot";

/** A text with its marked part between bars, or its caret at one. */
function marked(text: string): Marked {
  const from = text.indexOf("|");
  const to = text.lastIndexOf("|");
  const bare = text.replaceAll("|", "");
  return { text: bare, from, to: to === from ? from : to - 1 };
}
function shown({ text, from, to }: Marked): string {
  const end = from === to ? "" : "|";
  return `${text.slice(0, from)}|${text.slice(from, to)}${end}${text.slice(to)}`;
}

describe("signs around words", () => {
  test("are put there, and taken away again", () => {
    const strong = around(marked("the |low| tide"), "strong");
    expect(shown(strong)).toBe("the **|low|** tide");
    expect(shown(around(strong, "strong"))).toBe("the |low| tide");
    expect(shown(around(marked("|**low**|"), "strong"))).toBe("|low|");
    expect(shown(around(marked("a |"), "code"))).toBe("a `|`");
  });

  test("put on and taken off leave any text as it was", () => {
    fc.assert(
      fc.property(fc.string(), fc.nat(), fc.nat(), (text, a, b) => {
        fc.pre(!/[*_`]/.test(text));
        const [from, to] = [a % (text.length + 1), b % (text.length + 1)].toSorted((x, y) => x - y);
        const at = { text, from, to };
        expect(around(around(at, "slanted"), "slanted")).toEqual(at);
      }),
    );
  });
});

describe("the beginnings of lines", () => {
  test("are put before all lines that are touched, and taken away where all have them", () => {
    const list = before(marked("first\nse|cond\nthi|rd\nlast"), "list");
    expect(shown(list)).toBe("first\n|- second\n- third|\nlast");
    expect(before(list, "list").text).toBe("first\nsecond\nthird\nlast");
    expect(before(list, "numbers").text).toBe("first\n1. second\n2. third\nlast");
    expect(before(marked("- |a\n  - b|"), "ticks").text).toBe("- [ ] a\n  - [ ] b");
    expect(shown(before(marked("a|b"), "quote"))).toBe("> ab|");
  });

  test("go on in the next line, count on, and end where a line says nothing", () => {
    const next = (text: string) => {
      const made = nextLine(marked(text));
      return made && shown(made);
    };
    expect(next("- ropes|")).toBe("- ropes\n- |");
    expect(next("  9. ropes|")).toBe("  9. ropes\n  10. |");
    expect(next("- [x] ropes|")).toBe("- [x] ropes\n- [ ] |");
    expect(next("- ropes\n- |")).toBe("- ropes\n|");
    expect(next("ropes|")).toBeNull();
    expect(next("- |ropes|")).toBeNull();
    expect(next("- ro|pes")).toBe("- ro\n- |pes");
  });
});

test("a link is made of words, or of an address that was pasted", () => {
  expect(shown(link(marked("see |the chart|")))).toBe("see [the chart](https://|)");
  expect(shown(link(marked("|https://harbour.example/a|")))).toBe(
    "[|words|](https://harbour.example/a)",
  );
});

describe("places on files", () => {
  const spot = (fileId: string) => ({ spot: { fileId, page: null, x: 0.5, y: 0.5 } });

  test("are numbered by file; one that is gone has no name", () => {
    const all = [spot("a"), { spot: null }, spot("b"), spot("a")];
    const seen = numberedSpots(all, (id) => (id === "a" ? "pier.png" : null));
    expect(all.map((one) => seen.get(one)?.number)).toEqual([1, undefined, 1, 2]);
    expect(all.map((one) => seen.get(one)?.fileName)).toEqual([
      "pier.png",
      undefined,
      null,
      "pier.png",
    ]);
  });

  test("never leave their page", () => {
    expect(spotMoved({ x: 0.99, y: 0 }, { right: 0.02, down: -0.02 })).toEqual({ x: 1, y: 0 });
  });
});
