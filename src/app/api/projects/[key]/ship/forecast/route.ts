import { signedIn } from "@/app/answer";
import { shipContract } from "@/core/ship/contract";
import { forecastDeployment } from "@/server/ship/forecast-deployment";

export const GET = signedIn(shipContract.forecastDeployment, (viewer, { params, query }) =>
  forecastDeployment(viewer, params.key, query),
);
