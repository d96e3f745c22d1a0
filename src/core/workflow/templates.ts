import type { WorkflowTemplate } from "./template";
import { BUILD_REVIEW_TEST_DEPLOY } from "./templates/build-review-test-deploy";
import { TEST_FIRST } from "./templates/test-first";
import { REPORT_TO_FIX } from "./templates/report-to-fix";
import { APPROVAL_ROUNDS } from "./templates/approval-rounds";
import { REPAIR } from "./templates/repair";
import { RELEASE_TRAIN } from "./templates/release-train";
import { EMPTY } from "./templates/empty";

/** What a project can be started from. */
export const PROJECT_TEMPLATES: readonly WorkflowTemplate[] = [
  BUILD_REVIEW_TEST_DEPLOY,
  TEST_FIRST,
  REPORT_TO_FIX,
  APPROVAL_ROUNDS,
  REPAIR,
  RELEASE_TRAIN,
  EMPTY,
];
