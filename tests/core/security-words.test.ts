import { soundsLikeHole } from "@/core/intake/security-words";

describe("what sounds like a hole in security", () => {
  test.each([
    ["I can open tickets of other people", "open tickets of other people"],
    [
      "When I changed the link I saw another passenger's booking with the address.",
      "changed the link I saw another passenger's booking",
    ],
    ["The page shows someone else\u2019s receipt to me", "shows someone else\u2019s receipt"],
    ["After the update I got the names of strangers in my list", "got the names of strangers"],
    ["The office list opens without a password", "without a password"],
    ["My password is visible in the address", "password is visible in the address"],
    ["By changing the number in the address I get further", "changing the number in the address"],
    ["typed <script>alert(1)</script> as a name", "<script"],
    ["Search for ' or 1=1 and look", "' or 1=1"],
    ["There is a SECURITY HOLE in the gate", "SECURITY HOLE"],
    ["I could cancel a stranger's ticket", "cancel a stranger's ticket"],
  ])("%s", (text, words) => expect(soundsLikeHole(text)).toBe(words));
});

describe("what does not", () => {
  test.each([
    "Two other passengers were refused at the gate as well",
    "Other people behind me got in with the same ticket",
    "I showed my ticket and the scanner said it was another boat's",
    "The app shows the wrong number of passengers",
    "I forgot my password and get no mail",
    "I open the app and my ticket is gone",
    "The ticket of my daughter has my name on it",
    "The dog of another passenger was in the way",
    "The guard at the security gate was rude",
    "We cannot change the booking for a group",
    "",
  ])("%s", (text) => expect(soundsLikeHole(text)).toBeNull());
});

test("the beginning of a text is read, and no more", () => {
  const words = "I see tickets of other people";
  expect(soundsLikeHole(`${"a ".repeat(1_500)}. ${words}`)).toBe("see tickets of other people");
  expect(soundsLikeHole(`${"see ".repeat(20_000)}. ${words}`)).toBeNull();
});
