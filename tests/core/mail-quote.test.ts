import { withoutQuote } from "@/core/formats/mail-quote";

/** Own words above what a mail program adds below them. */
const mail = (...below: string[]) => ["The gate is open again.", "", ...below].join("\n");
const OWN = "The gate is open again.";

test.each<[string, string[]]>([
  ["a signature", ["-- ", "Edda", "Ticket window"]],
  ["a signature without its blank", ["--", "Edda"]],
  ["quoted lines alone", ["> Is it?", "> Please say."]],
  ["a line that says who wrote, by the day", ["On 21/11/2026 Ines wrote:", "> Is it?"]],
  ["by the address", ["On Saturday Ines <ines@saltmarsh.example> wrote:", "> Is it?"]],
  ["by neither, above a quote", ["On Saturday Ines wrote:", "> Is it?"]],
  ["with no quote marks, by the day", ["On 21 Nov 2026 at 10 Ines wrote:", "Is it?"]],
  ["with no quote marks, by the address", ["Ines <ines@saltmarsh.example>:", "Is it?"]],
  ["over two lines", ["On Saturday, 21 November 2026,", "Ines wrote:", "> Is it?"]],
  ["in German", ["Am 21.11.2026 schrieb Ines:", "Ist es?"]],
  ["in French", ["Le 21/11/2026 Ines a écrit :", "> Est-ce ?"]],
  ["in Dutch", ["Op 21 nov 2026 schreef Ines:", "> Is het?"]],
  [
    "quoted lines with blank ones and a signature among them",
    ["On Saturday Ines wrote:", "> Is it?", "", "> Yes?", "-- ", "> Ines"],
  ],
  ["the words of a program", ["----- Original Message -----", "Is it?"]],
  ["in German too", ["-----Weitergeleitete Nachricht-----", "Ist es?"]],
  ["the headers written out", ["From: Ines", "Sent: Saturday", "Subject: Gate", "", "Is it?"]],
  ["in bold", ["*From:* Ines", "*To:* Edda", "*Date:* Saturday", "*Subject:* Gate", "Is it?"]],
  [
    "in German, with an address to answer",
    ["Von: Ines", "Antwort an: x", "Gesendet: Samstag", "An: Edda", "Betreff: Tor"],
  ],
  [
    "headers up to the eighth line",
    ["From: Ines", "To: a", "Cc: b", "Cc: c", "Cc: d", "Cc: e", "Date: Saturday", "Subject: Gate"],
  ],
])("taken off: %s", (_what, below) => {
  expect(withoutQuote(mail(...below))).toBe(OWN);
  expect(withoutQuote(mail(...below).replaceAll("\n", "\r\n"))).toBe(OWN);
  expect(withoutQuote(mail(...below).replaceAll(" wrote", "\u00a0wrote"))).toBe(OWN);
});

test.each<[string, string[]]>([
  ["a longer line of dashes", ["---", "Edda"]],
  ["dashes before words", ["-- Edda"]],
  ["a sentence that ends so", ["This is what it says:", "closed"]],
  ["somebody who wrote, without a day or an address", ["On Saturday Ines wrote:", "closed"]],
  ["an answer below a quote", ["On Saturday Ines wrote:", "> Is it?", "Yes, since ten."]],
  ["an address in a sentence", ["Write to <ines@saltmarsh.example> then"]],
  ["half an address", ["Ines <@saltmarsh.example>:", "closed"]],
  ["an address without a place", ["Ines <ines@>:", "closed"]],
  ["an address with a gap", ["Ines <ines @saltmarsh.example>:", "closed"]],
  ["an address without signs", ["ines@saltmarsh.example:", "closed"]],
  ["a long line with an address", [`${"so ".repeat(70)}<ines@saltmarsh.example>:`, "closed"]],
  ["words between dashes that mean nothing", ["-- Original tariff --", "closed"]],
  ["dashes on one side", ["----- Original Message", "closed"]],
  ["and on the other", ["Original Message -----", "closed"]],
  ["headers without a day", ["From: Gannet quay", "Subject: Gate", "closed"]],
  ["headers without what about", ["From: Gannet quay", "Date: Saturday", "closed"]],
  ["headers with words between", ["From: Gannet quay", "it is", "Date: Saturday", "Subject: Gate"]],
  [
    "a list of other names",
    ["From: Gannet quay", "Stop: Town Quay", "Date: Saturday", "Subject: Gate"],
  ],
  ["headers that begin otherwise", ["To: Edda", "Date: Saturday", "Subject: Gate"]],
  [
    "headers beyond the eighth line",
    [
      "From: Ines",
      "To: a",
      "Cc: b",
      "Cc: c",
      "Cc: d",
      "Cc: e",
      "Cc: f",
      "Date: Saturday",
      "Subject: Gate",
    ],
  ],
  ["a colon alone", [": closed", "Date: Saturday", "Subject: Gate"]],
  ["a short line", ["<a@b>:", "closed"]],
])("kept: %s", (_what, below) => expect(withoutQuote(mail(...below))).toBe(mail(...below)));

test("of words before the quote the words stay", () =>
  expect(withoutQuote(mail("On Saturday Ines wrote:", "this, see below", "> Is it?"))).toBe(
    mail("On Saturday Ines wrote:", "this, see below"),
  ));

test("blank lines at the ends go, those between stay", () =>
  expect(withoutQuote("\n\n One. \n\n Two. \n  \n> quoted\n\n")).toBe("One. \n\n Two."));

test("where nothing would be left, everything stays", () => {
  expect(withoutQuote("> Is it?\n> Please.\n")).toBe("> Is it?\n> Please.");
  expect(withoutQuote("-- \nEdda")).toBe("-- \nEdda");
  expect(withoutQuote("  ")).toBe("");
});

test("lines longer than programs write there are not looked at", () => {
  const long = `On 21/11/2026 ${"Ines ".repeat(80)} wrote:`;
  expect(withoutQuote(mail(long, "closed"))).toBe(mail(long, "closed"));
});
