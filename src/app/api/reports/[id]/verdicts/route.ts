import { z } from "zod";
import { signedIn } from "@/app/answer";
import { reportContract } from "@/core/intake/contract";
import { triageReport, undoVerdict } from "@/server/intake/triage-report";

export const POST = signedIn(reportContract.judge, (viewer, { params, body }) =>
  triageReport(viewer, z.uuid().parse(params.id), body),
);

/** Undoes the latest verdict. */
export const DELETE = signedIn(reportContract.undoVerdict, (viewer, { params, body }) =>
  undoVerdict(viewer, z.uuid().parse(params.id), body.verdictId),
);
