import { randomUUID } from "node:crypto";
import { and, asc, eq, isNull } from "drizzle-orm";
import { statusForRequester, UNJUDGED } from "@/core/intake/report";
import { transitionBetween, transitionsFrom } from "@/core/workflow/workflow";
import { database, transact, type Transaction } from "@/db/connection";
import { item, outbox, project, report, reportMessage, reportPicture, state } from "@/db/schema";
import { decideAndStore, lockItem } from "../item/command";
import { enterItem } from "../item/surroundings";
import { REQUESTER } from "../people/viewer";
import { notFound, Refused } from "../refused";
import type { RequesterMove } from "./request";
import { refuse } from "@/core/workflow/refusal";

/** What somebody without an account sees of their report: nothing internal, no names of people. */
export interface PrivatePage {
  reference: string;
  projectName: string;
  title: string;
  happened: string;
  reproduce: string;
  place: string;
  receivedAt: number;
  now: number;
  hasPicture: boolean;
  status: { headline: string; detail: string };
  awaitsAnswer: boolean;
  /** Steps that the process leaves to the requester. */
  moves: { from: string; to: string; verb: string; asksWhy: boolean }[];
  messages: { kind: "question" | "answer" | "progress"; body: string; at: number }[];
}

const TOKEN = /^[A-Za-z0-9_-]{32}$/;

export async function readPrivatePage(token: string): Promise<PrivatePage> {
  if (!TOKEN.test(token)) throw notFound("report");
  const db = database();
  const [row] = await db
    .select({ report, projectName: project.name, item: { stateKind: item.stateKind, outcome: item.outcome }, stage: state.stage, picture: reportPicture.mediaType })
    .from(report)
    .innerJoin(project, eq(project.id, report.projectId))
    .leftJoin(item, eq(item.id, report.itemId))
    .leftJoin(state, eq(state.id, item.stateId))
    .leftJoin(reportPicture, eq(reportPicture.reportId, report.id))
    .where(eq(report.token, token));
  if (!row) throw notFound("report");
  const messages = await db
    .select({ kind: reportMessage.kind, body: reportMessage.body, at: reportMessage.at })
    .from(reportMessage)
    .where(and(eq(reportMessage.reportId, row.report.id), isNull(reportMessage.takenBackAt)))
    .orderBy(asc(reportMessage.id));
  const { reference, title, happened, reproduce, place, receivedAt, status } = row.report;
  return {
    reference,
    projectName: row.projectName,
    title,
    happened,
    reproduce,
    place,
    receivedAt,
    now: Date.now(),
    hasPicture: row.picture !== null,
    status: statusForRequester(row.report, row.item && { ...row.item, stage: row.stage }),
    awaitsAnswer: isAsked(status, messages),
    moves: await movesOf(row.report.itemId),
    messages,
  };
}

/** The requester answers the open question: a report returns to the queue, an item hears of it. */
export async function answerQuestion(token: string, answer: string): Promise<void> {
  if (!TOKEN.test(token)) throw notFound("report");
  await transact(async (tx) => {
    const [row] = await tx.select().from(report).where(eq(report.token, token)).for("update");
    if (!row) throw notFound("report");
    const messages = await tx.select({ kind: reportMessage.kind }).from(reportMessage).where(and(eq(reportMessage.reportId, row.id), isNull(reportMessage.takenBackAt))).orderBy(asc(reportMessage.id));
    if (!isAsked(row.status, messages))
      throw new Refused(refuse("conflict", "There is no open question any more.", "Your report is with us; you need not do anything."));
    const now = Date.now();
    await tx.insert(reportMessage).values({ reportId: row.id, kind: "answer", body: answer, at: now });
    if (row.status === "asked") await tx.update(report).set({ ...UNJUDGED, returnedAt: now, version: row.version + 1 }).where(eq(report.id, row.id));
    else if (row.itemId) await sayOnItem(tx, row.itemId, answer);
    await tx.insert(outbox).values({ projectId: row.projectId, at: now, kind: "intake", reportId: row.id });
  });
}

/** Whether the last thing said, news left aside, was a question to the requester. */
function isAsked(status: string, messages: readonly { kind: "question" | "answer" | "progress" }[]): boolean {
  return status === "asked" || ((status === "accepted" || status === "merged") && messages.findLast((m) => m.kind !== "progress")?.kind === "question");
}

/** What a requester answers about work that is under way stands with the item's comments. */
async function sayOnItem(tx: Transaction, itemId: string, body: string): Promise<void> {
  const surroundings = await enterItem(tx, REQUESTER, itemId, "comment item");
  const before = await lockItem(tx, itemId);
  await decideAndStore(tx, REQUESTER, surroundings, before, randomUUID(), { kind: "comment", body }, { cause: "requester" });
}

/** The moves that the process leaves to whoever asked for the item. */
async function movesOf(itemId: string | null): Promise<PrivatePage["moves"]> {
  if (itemId === null) return [];
  return transact(async (tx) => {
    const { workflow } = await enterItem(tx, REQUESTER, itemId, "read project");
    const [now] = await tx.select().from(item).where(eq(item.id, itemId));
    const mine = transitionsFrom(workflow, now.stateId).filter((t) => now.withdrawnAt === null && t.who.some((m) => m.kind === "requester"));
    return mine.map((t) => ({ from: now.stateId, to: t.to, verb: t.verb, asksWhy: t.requirements.some((r) => r.kind === "reason" || r.kind === "comment") }));
  });
}

/** The requester makes a move that the process leaves to them. @throws Refused as any move is */
export async function moveAsRequester(token: string, { from, to, words }: RequesterMove): Promise<void> {
  if (!TOKEN.test(token)) throw notFound("report");
  await transact(async (tx) => {
    const [row] = await tx.select({ itemId: report.itemId, projectId: report.projectId, id: report.id }).from(report).where(eq(report.token, token));
    if (!row?.itemId) throw notFound("report");
    const surroundings = await enterItem(tx, REQUESTER, row.itemId, "move item");
    const before = await lockItem(tx, row.itemId);
    const transition = transitionBetween(surroundings.workflow, before.stateId, to);
    if (!transition?.who.some((m) => m.kind === "requester")) throw new Refused(refuse("not for you", "This step is not open to you any more.", "Reload the page to see how it stands."));
    await decideAndStore(tx, REQUESTER, surroundings, before, randomUUID(), { kind: "move", from, to, answers: { reason: words, comment: words, outcome: "delivered" } }, { cause: "requester" });
  });
}

export async function privatePicture(token: string): Promise<{ mediaType: string; content: Buffer }> {
  const [row] = await database()
    .select({ mediaType: reportPicture.mediaType, content: reportPicture.content })
    .from(reportPicture)
    .innerJoin(report, eq(report.id, reportPicture.reportId))
    .where(eq(report.token, TOKEN.test(token) ? token : ""));
  if (!row) throw notFound("picture");
  return row;
}
