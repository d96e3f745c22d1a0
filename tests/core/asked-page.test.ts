import { ownPage, signInFor } from "@/app/asked-page";

test.each([
  ["/p/TIX/flow", "/p/TIX/flow"],
  ["/p/TIX/flow?board=b%201&_rsc=abc", "/p/TIX/flow?board=b+1"],
  ["/p/TIX/items/TIX-1#comments", "/p/TIX/items/TIX-1#comments"],
  ["/", "/"],
])("%s leads back to %s", (asked, page) => expect(ownPage(asked)).toBe(page));

test.each([
  "https://elsewhere.example/",
  "//elsewhere.example/",
  "/\\elsewhere.example",
  "/p/../../..//elsewhere.example\n",
  "javascript:alert(1)",
  "/sign-in?to=/sign-in",
  "/api/items/commands",
  `/${"a".repeat(600)}`,
  "",
  null,
  undefined,
])("%s leads to the start page", (asked) => expect(ownPage(asked)).toBe("/"));

test("the sign-in page names where somebody wanted to go, and the start page need not be named", () => {
  expect(signInFor("/p/TIX/learn?period=4 weeks".replace(" ", "%20"))).toBe(
    "/sign-in?to=%2Fp%2FTIX%2Flearn%3Fperiod%3D4%2Bweeks",
  );
  expect(signInFor("/")).toBe("/sign-in");
  expect(signInFor(null)).toBe("/sign-in");
});
