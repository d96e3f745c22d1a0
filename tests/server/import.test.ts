import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { database } from "@/db/connection";
import { item, report } from "@/db/schema";
import { readDesk } from "@/server/intake/desk";
import { readReport } from "@/server/intake/read-report";
import { importReports, quickReport } from "@/server/intake/import";
import { triageReport } from "@/server/intake/triage-report";
import { itemIn, refusalOf } from "./setup/board";
import { ARTHUR, NOOR, OSKAR, TOMAS } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const reports = (n: number) =>
  Array.from({ length: n }, (_, i) => ({
    title: `Row ${i}`,
    happened: "From the old list.",
    reproduce: "",
    place: "",
    mail: "",
  }));
const ofImport = (importId: string) =>
  database().select().from(report).where(eq(report.importId, importId));

test("a table comes in by parts, each once, and is taken back as far as nobody has judged it", async () => {
  const importId = randomUUID();
  const part = (n: number) =>
    importReports(TOMAS, "TIX", { kind: "import", importId, part: n, reports: reports(3) });
  expect(await part(0)).toEqual({ changed: 3, kept: 0 });
  expect(await part(1)).toEqual({ changed: 3, kept: 0 });
  expect(await part(1)).toEqual({ changed: 0, kept: 3 });
  const [first] = await ofImport(importId);
  expect((await readDesk(TOMAS, "TIX")).queue.find((r) => r.id === first.id)).toMatchObject({
    way: "table",
  });
  const { report: open } = await readReport(TOMAS, first.id);
  await triageReport(TOMAS, first.id, {
    commandId: randomUUID(),
    seenVersion: open.version,
    verdict: { kind: "decline", reason: "An old one." },
  });
  expect(await importReports(TOMAS, "TIX", { kind: "take back", importId })).toEqual({
    changed: 5,
    kept: 1,
  });
  expect((await ofImport(importId)).map((r) => r.id)).toEqual([first.id]);
});

test("only who judges reports imports them, and nobody takes back another project's", async () => {
  const importId = randomUUID();
  expect(
    await refusalOf(
      importReports(ARTHUR, "TIX", { kind: "import", importId, part: 0, reports: reports(1) }),
    ),
  ).toBe("not allowed");
  await importReports(TOMAS, "TIX", { kind: "import", importId, part: 0, reports: reports(1) });
  expect(await refusalOf(importReports(OSKAR, "GATE", { kind: "take back", importId }))).toBe(
    "not found",
  );
  expect((await ofImport(importId)).length).toBe(1);
});

test("a quick report by whoever sees something, with the item in view", async () => {
  const id = await itemIn(NOOR, "In view");
  const [row] = await database().select({ number: item.number }).from(item).where(eq(item.id, id));
  const { reference } = await quickReport(ARTHUR, "TIX", {
    title: "Button is grey",
    happened: "",
    itemKey: `TIX-${row.number}`,
  });
  const [made] = await database().select().from(report).where(eq(report.reference, reference));
  expect(made).toMatchObject({
    way: "hand",
    status: "unjudged",
    happened: `Button is grey\n\nSeen at TIX-${row.number}.`,
    mail: "arthur.quill@saltmarsh.example",
  });
  expect(
    await refusalOf(quickReport(ARTHUR, "TIX", { title: "x", happened: "", itemKey: "GATE-1" })),
  ).toBe("invalid");
  expect(
    await refusalOf(quickReport(ARTHUR, "TIDE", { title: "x", happened: "", itemKey: null })),
  ).toBe("not found");
});
