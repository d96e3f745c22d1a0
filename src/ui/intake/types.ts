import type { ReportStatus, ReportWay } from "@/core/intake/report";
import type { TargetState } from "@/core/intake/service-target";
import type { Verdict } from "@/core/intake/verdict";

export interface QueueRow {
  id: string;
  reference: string;
  title: string;
  place: string;
  receivedAt: number;
  returnedAt: number | null;
  status: ReportStatus;
  parkedUntil: string | null;
  way: ReportWay;
  promise: { target: string; answer: TargetState } | null;
}

export interface DeskView {
  project: { id: string; key: string; name: string; zone: string };
  queue: QueueRow[];
  aside: QueueRow[];
  types: { id: string; name: string }[];
  people: { id: string; name: string; calling: string | null; load: number }[];
  teams: { id: string; name: string }[];
  backlogTop: { id: string; key: string; title: string }[];
  inWork: { id: string; key: string; title: string }[];
  finishedLately: { id: string; key: string; title: string }[];
  mayJudge: boolean;
  now: number;
}

export interface ReportView {
  report: Omit<QueueRow, "promise"> & { happened: string; reproduce: string; mail: string; version: number; declineReason: string | null; itemId: string | null };
  hasPicture: boolean;
  messages: { kind: string; body: string; at: number; author: string | null }[];
  verdicts: { id: string; verdict: Verdict; by: string; at: number; undoneAt: number | null }[];
  similar: { id: string; key: string; title: string; stateName: string; finished: boolean; outcome: string | null; score: number; words: string[] }[];
  similarReports: { id: string; reference: string; title: string; status: ReportStatus; score: number; words: string[]; itemId: string | null }[];
  earlier: { id: string; reference: string; title: string; status: ReportStatus }[];
  itemKey: string | null;
}
