import { shortDays, span } from "@/ui/kit/time";

test.each([
  [2.44, "2.4 d"],
  [0.05, "0.1 d"],
  // 72 minutes are five hundredths of a day: what is less would be "0.0 d".
  [0.049, "71 min"],
  [1 / 1440, "1 min"],
  [0, "0.0 d"],
])("%s days are %s", (days, words) => {
  expect(shortDays(days)).toBe(words);
});

test.each([
  [89_000, "just now"],
  [90_000, "2 minutes"],
  [3 * 3_600_000, "3 hours"],
  [36 * 3_600_000, "2 days"],
])("%s ms are %s", (ms, words) => {
  expect(span(ms)).toBe(words);
});
