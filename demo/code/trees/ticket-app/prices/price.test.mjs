import assert from "node:assert/strict";
import test from "node:test";
import { familyPrice, price } from "./price.mjs";

test("an adult pays by zones", () => {
  assert.equal(price({ zones: 1, traveller: "adult" }), 340);
  assert.equal(price({ zones: 4, traveller: "adult" }), 840);
});

test("a child pays half, a resident seven tenths, a wheelchair user nothing", () => {
  assert.equal(price({ zones: 2, traveller: "child" }), 260);
  assert.equal(price({ zones: 2, traveller: "resident" }), 364);
  assert.equal(price({ zones: 2, traveller: "wheelchair user" }), 0);
});

test("there and back is cheaper than twice", () => {
  assert.equal(price({ zones: 1, traveller: "adult", back: true }), 612);
});

test("a bicycle has one price", () => {
  assert.equal(price({ zones: 3, traveller: "adult", bicycles: 2 }), 990);
});

test("two children go free with an adult, the third pays", () => {
  assert.equal(familyPrice({ zones: 1, adults: 1, children: 2 }), 340);
  assert.equal(familyPrice({ zones: 1, adults: 1, children: 3 }), 510);
});

test("what there is not is refused", () => {
  assert.throws(() => price({ zones: 9, traveller: "adult" }), RangeError);
  assert.throws(() => price({ zones: 1, traveller: "gull" }), RangeError);
});
