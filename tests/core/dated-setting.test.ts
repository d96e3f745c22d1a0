import fc from "fast-check";
import { valueAt } from "@/core/calendar/dated-setting";

test("a setting is what it was made last before an instant, and before the first what it began as", () => {
  const zone = [
    { validFrom: 30, value: "c" },
    { validFrom: 10, value: "a" },
    { validFrom: 20, value: "b" },
  ];
  expect([5, 10, 19, 20, 99].map((at) => valueAt(zone, at))).toEqual(["a", "a", "a", "b", "c"]);
  expect(valueAt([], 5)).toBeNull();
});

test("what was written down later changes nothing about what held earlier", () => {
  const dated = fc.array(
    fc.record({ validFrom: fc.integer({ min: 0, max: 100 }), value: fc.nat() }),
    {
      minLength: 1,
    },
  );
  fc.assert(
    fc.property(dated, fc.integer({ min: 0, max: 100 }), fc.nat(), (values, at, value) => {
      const first = Math.min(...values.map((v) => v.validFrom));
      fc.pre(at >= first);
      const later = [...values, { validFrom: at + 1, value }];
      expect(valueAt(later, at)).toBe(valueAt(values, at));
      expect(valueAt(later, at + 1)).toBe(value);
    }),
  );
});
