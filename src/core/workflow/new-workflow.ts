/** What became of a workflow that was added. */
export interface MadeWorkflow {
  workflowId: string;
  /** Where it would trap items as it came, it is a draft and not published. */
  isDraft: boolean;
  /** What was understood of a file, and what was left, in words. */
  taken: string[];
  left: string[];
}
