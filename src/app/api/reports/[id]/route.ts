import { z } from "zod";
import { signedIn } from "@/app/answer";
import { reportContract } from "@/core/intake/contract";
import { readReport } from "@/server/intake/read-report";

export const GET = signedIn(reportContract.read, (viewer, { params }) =>
  readReport(viewer, z.uuid().parse(params.id)),
);
