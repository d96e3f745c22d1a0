import { quantile as quantileOfSimpleStatistics } from "simple-statistics";
import { ascending, quantile, type QuantileType } from "@/core/flow/quantile";
import fromR from "./quantile.json";

/*
 * Against R's `quantile` (R Core Team; values made by quantile.R beside this file, R version in the
 * JSON), whose types are those of Hyndman and Fan, "Sample quantiles in statistical packages", The
 * American Statistician 50 (1996), 361-365.
 */
test.each(fromR.cases)("type $type of $values is what R gives", ({ values, type, quantiles }) => {
  const sorted = ascending(values);
  fromR.probabilities.forEach((p, i) =>
    expect(quantile(sorted, p, type as QuantileType)).toBeCloseTo(quantiles[i], 9),
  );
});

/* simple-statistics 7.12.0, `quantile`: linear between order statistics, which is type 7. */
test.each(fromR.cases.filter((c) => c.type === 7))(
  "type 7 of $values is what simple-statistics gives",
  ({ values }) => {
    for (const p of fromR.probabilities)
      expect(quantile(ascending(values), p, 7)).toBeCloseTo(
        quantileOfSimpleStatistics(values, p),
        12,
      );
  },
);

test("no values have no quantile, and a share outside 0 to 1 is an error", () => {
  expect(quantile([], 0.5)).toBeNull();
  for (const p of [-0.1, 1.1, NaN]) expect(() => quantile([1], p)).toThrow(RangeError);
});
