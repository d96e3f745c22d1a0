import { readFileSync } from "node:fs";
import path from "node:path";
import fc from "fast-check";
import { isItemFileAddress, fileInWords, itemFileAddress } from "@/core/item/item-file";
import { isDrawable, pictureSize } from "@/core/formats/picture-size";

const reference = (name: string) =>
  new Uint8Array(readFileSync(path.join(__dirname, "../reference/pictures", name)));
const bytes = (...parts: (number | string)[]) =>
  Uint8Array.from(
    parts.flatMap((part) =>
      typeof part === "string" ? [...part].map((c) => c.charCodeAt(0)) : [part],
    ),
  );

test.each(["small.png", "small.jpeg", "small.webp"])("%s is as large as it was taken", (name) => {
  expect(pictureSize(reference(name))).toEqual({ width: 37, height: 21 });
});

test.each<[string, Uint8Array, { width: number; height: number } | null]>([
  // GIF89a, section 18: width and height, the low byte first.
  ["a GIF", bytes("GIF89a", 0x2c, 0x01, 0x0a, 0x00, 0, 0, 0), { width: 300, height: 10 }],
  // RFC 9649, section 3.4: fourteen bits each, one less than they are.
  [
    "a WebP without loss",
    bytes("RIFF", 0, 0, 0, 0, "WEBPVP8L", 0, 0, 0, 0, 0x2f, 0x24, 0x00, 0x05, 0x00),
    { width: 37, height: 21 },
  ],
  // Section 2.7: twenty-four bits each, one less than they are.
  [
    "a WebP with more",
    bytes("RIFF", 0, 0, 0, 0, "WEBPVP8X", 10, 0, 0, 0, 0, 0, 0, 0, 36, 0, 1, 20, 0, 0),
    { width: 65_573, height: 21 },
  ],
  ["a JPEG that ends too early", bytes(0xff, 0xd8, 0xff, 0xe0, 0, 16), null],
  ["a text", bytes("not a picture at all"), null],
  ["nothing", bytes(), null],
])("%s", (_, content, size) => {
  expect(pictureSize(content)).toEqual(size);
});

test("what says that it is monstrous, or nothing, is not drawn", () => {
  expect(isDrawable({ width: 4_000, height: 3_000 })).toBe(true);
  expect(isDrawable({ width: 60_000, height: 60_000 })).toBe(false);
  expect(isDrawable({ width: 0, height: 10 })).toBe(false);
  expect(isDrawable(null)).toBe(false);
});

test("any bytes are read to an end, without harm", () => {
  const heads = ["small.png", "small.jpeg", "small.webp"].map(reference);
  const spoilt = fc
    .tuple(fc.constantFrom(...heads), fc.nat(200), fc.uint8Array({ maxLength: 40 }))
    .map(([head, at, other]) => Uint8Array.from([...head.slice(0, at), ...other]));
  fc.assert(
    fc.property(fc.oneof(fc.uint8Array({ maxLength: 300 }), spoilt), (content) => {
      const size = pictureSize(content);
      expect(size === null || (size.width >= 0 && size.height >= 0)).toBe(true);
    }),
    { numRuns: 2_000 },
  );
});

test("only the address of an item's file is drawn in a text", () => {
  const id = "0197c2a4-0000-7000-8000-000000000001";
  expect(isItemFileAddress(itemFileAddress("TIX-606", id))).toBe(true);
  for (const other of [
    `https://elsewhere.example/api/items/TIX-606/files/${id}`,
    `//elsewhere.example/api/items/TIX-606/files/${id}`,
    `/api/items/TIX-606/files/${id}?x=1`,
    `/api/items/TIX-606/files/../../${id}`,
    "/api/items/TIX-606",
  ])
    expect(isItemFileAddress(other)).toBe(false);
  const file = { id, name: "a](b)[c.png", picture: { width: 1, height: 1 } };
  const link = `[a (b) c.png](/api/items/TIX-606/files/${id})`;
  expect(fileInWords("TIX-606", file)).toBe(`!${link}`);
  expect(fileInWords("TIX-606", { ...file, picture: null })).toBe(link);
});
