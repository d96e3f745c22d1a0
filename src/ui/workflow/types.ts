import type { Column } from "@/core/board/column";
import type { Workflow } from "@/core/workflow/workflow";

export interface DesignView {
  project: { id: string; key: string; name: string; zone: string };
  board: { id: string; name: string; version: number };
  columns: Column[];
  workflows: (Workflow & { typeNames: string[] })[];
  counts: Record<string, number>;
  versions: { workflowId: string; version: number; at: number; by: string | null; summary: string }[];
  mayEdit: boolean;
}
