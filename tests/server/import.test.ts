import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { dayNumber, parseIsoDate } from "@/core/calendar/zone";
import { database } from "@/db/connection";
import { item, mailOut, report, reportFile } from "@/db/schema";
import { readDesk } from "@/server/intake/desk";
import { readReport } from "@/server/intake/read-report";
import { quickReport } from "@/server/intake/quick-report";
import { importReports } from "@/server/intake/import";
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
    receivedOn: null as string | null,
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

test("rows stand in the queue in the order of the file, on the day that the table says", async () => {
  const importId = randomUUID();
  const rows = reports(4).map((r, i) => ({ ...r, receivedOn: i === 1 ? "2026-03-02" : null }));
  await importReports(TOMAS, "TIX", { kind: "import", importId, part: 0, reports: rows });
  const more = reports(2).map((r) => ({ ...r, title: `Later ${r.title}` }));
  await importReports(TOMAS, "TIX", { kind: "import", importId, part: 1, reports: more });
  const made = (await ofImport(importId)).toSorted(
    (a, b) => a.receivedAt - b.receivedAt || (a.id < b.id ? -1 : 1),
  );
  expect(made.map((r) => r.title)).toEqual([
    "Row 1",
    "Row 0",
    "Row 2",
    "Row 3",
    "Later Row 0",
    "Later Row 1",
  ]);
  expect(dayNumber(made[0].receivedAt, "Europe/London")).toBe(parseIsoDate("2026-03-02"));
  expect(made.every((r) => r.receivedAt <= Date.now())).toBe(true);
  const ids = new Set(made.map((r) => r.id));
  const letters = await database().select().from(mailOut);
  expect(letters.filter((l) => ids.has(l.reportId))).toEqual([]);
});

test("who called is who hears of it, with the pictures; what is no picture stores nothing", async () => {
  const caller = "berta.lund@post.saltmarsh.example";
  const said = { title: "Ramp stuck", happened: "At the north quay.", itemKey: null, caller };
  const png = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 1, 2, 3]);
  const sent = [{ name: "ramp.png", content: png }];
  const { reference } = await quickReport(TOMAS, "TIX", { ...said, sent });
  const [made] = await database().select().from(report).where(eq(report.reference, reference));
  expect(made).toMatchObject({ mail: caller, way: "hand", title: "Ramp stuck" });
  const files = await database().select().from(reportFile).where(eq(reportFile.reportId, made.id));
  expect(files.map((f) => f.name)).toEqual(["ramp.png"]);
  const letters = await database().select().from(mailOut).where(eq(mailOut.reportId, made.id));
  expect(letters.map((l) => [l.recipient, l.subject])).toEqual([
    [caller, expect.stringContaining(reference)],
  ]);
  const page = { name: "page.html", content: Buffer.from("<script>") };
  expect(await refusalOf(quickReport(TOMAS, "TIX", { ...said, sent: [page] }))).toBe("invalid");
});

test("nobody gets letters about what they wrote and judged themselves; others do", async () => {
  const quick = async (viewer: typeof TOMAS) => {
    const said = { title: "Mine", happened: "", itemKey: null, caller: "" };
    const { reference } = await quickReport(viewer, "TIX", said);
    return (await database().select().from(report).where(eq(report.reference, reference)))[0];
  };
  const lettersAbout = async (by: typeof TOMAS) => {
    const { id, version } = await quick(by);
    const verdict = { kind: "decline", reason: "We know of it." } as const;
    await triageReport(TOMAS, id, { commandId: randomUUID(), seenVersion: version, verdict });
    return database().select().from(mailOut).where(eq(mailOut.reportId, id));
  };
  expect(await lettersAbout(TOMAS)).toEqual([]);
  expect(await lettersAbout(NOOR)).toHaveLength(1);
});

test("a quick report by whoever sees something, with the item in view", async () => {
  const id = await itemIn(NOOR, "In view");
  const [row] = await database().select({ number: item.number }).from(item).where(eq(item.id, id));
  const { reference } = await quickReport(ARTHUR, "TIX", {
    title: "Button is grey",
    happened: "",
    itemKey: `TIX-${row.number}`,
    caller: "",
  });
  const [made] = await database().select().from(report).where(eq(report.reference, reference));
  expect(made).toMatchObject({
    way: "hand",
    status: "unjudged",
    happened: `Button is grey\n\nSeen at TIX-${row.number}.`,
    mail: "arthur.quill@saltmarsh.example",
  });
  expect(
    await refusalOf(
      quickReport(ARTHUR, "TIX", { title: "x", happened: "", itemKey: "GATE-1", caller: "" }),
    ),
  ).toBe("invalid");
  expect(
    await refusalOf(
      quickReport(ARTHUR, "TIDE", { title: "x", happened: "", itemKey: null, caller: "" }),
    ),
  ).toBe("not found");
});
