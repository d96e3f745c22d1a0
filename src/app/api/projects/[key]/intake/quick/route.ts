import { signedIn } from "@/app/answer";
import { readForm } from "@/app/read-form";
import { intakeContract } from "@/core/intake/contract";
import { quickBody } from "@/core/intake/request";
import { quickReport } from "@/server/intake/quick-report";

export const POST = signedIn(intakeContract.quick, async (viewer, { params }, request) => {
  const { raw, files } = await readForm(request);
  const said = Object.fromEntries(Object.entries(raw).map(([name, values]) => [name, values[0]]));
  return quickReport(viewer, params.key, { ...quickBody.parse(said), sent: files });
});
