import { z } from "zod";
import { answered, contract, DONE } from "@/core/contract/contract";
import type { DesignHistoryView } from "./design-change";
import type { DesignView } from "./design-view";
import type { SourcesView } from "./event-source";
import { draftVisitBody, type DraftVisitor } from "./draft-visit";
import type { MadeWorkflow } from "./new-workflow";
import type { Habits } from "./habits";
import type { ReplayView } from "./replay";
import {
  discardBody,
  draftBody,
  exportQuery,
  habitsQuery,
  newWorkflowBody,
  projectBody,
  publishBody,
  replayQuery,
  sourceBody,
  startProjectBody,
  typeEditBody,
  versionQuery,
  workflowEditBody,
} from "./request";
import type { Workflow } from "./workflow";

/** A workflow of the largest size that is allowed, with conditions and agreements. */
const LARGEST_DRAFT = 2 * 1024 * 1024;
/** A file of the largest size that is read, as JSON text. */
const LARGEST_FILE = 12 * 1024 * 1024;

export const workflowContract = {
  startProject: contract({
    method: "POST",
    path: "/api/projects",
    body: startProjectBody,
    answer: z.object({ key: z.string() }),
    status: 201,
  }),
  /** The process of a project, as Design shows it. */
  design: contract({
    method: "GET",
    path: "/api/projects/:key/workflow",
    answer: answered<DesignView>(),
    kept: "design",
  }),
  /** Changes what a project is called, who sees it, its zone and what it expects. */
  editProject: contract({
    method: "POST",
    path: "/api/projects/:key/settings",
    body: projectBody,
    answer: DONE,
  }),
  /** Puts a project away, or brings it back. */
  putProjectAway: contract({
    method: "POST",
    path: "/api/projects/:key/put-away",
    body: z.object({ away: z.boolean() }),
    answer: DONE,
  }),
  /** What was changed of how the project works beside its workflows, the latest first. */
  designHistory: contract({
    method: "GET",
    path: "/api/projects/:key/design-history",
    query: z.object({ before: z.uuid().optional() }),
    answer: answered<DesignHistoryView>(),
    kept: "design history",
  }),
  saveDraft: contract({
    method: "POST",
    path: "/api/projects/:key/workflow/draft",
    body: draftBody,
    answer: z.object({ revision: z.number(), baseVersion: z.number() }),
    largest: LARGEST_DRAFT,
  }),
  discardDraft: contract({
    method: "DELETE",
    path: "/api/projects/:key/workflow/draft",
    body: discardBody,
    answer: DONE,
  }),
  /** Says where one is at a draft; answers who else is there. */
  visit: contract({
    method: "POST",
    path: "/api/projects/:key/workflow/visit",
    body: draftVisitBody,
    answer: answered<DraftVisitor[]>(),
  }),
  publish: contract({
    method: "POST",
    path: "/api/projects/:key/workflow/publish",
    body: publishBody,
    answer: z.object({ version: z.number(), movedItems: z.number() }),
  }),
  /** A published version as it was. */
  version: contract({
    method: "GET",
    path: "/api/projects/:key/workflow/versions",
    query: versionQuery,
    answer: answered<Workflow>(),
    kept: "workflow version",
  }),
  /** What the draft would have done to the moves of the last days. */
  replay: contract({
    method: "GET",
    path: "/api/projects/:key/workflow/replay",
    query: replayQuery,
    answer: answered<ReplayView>(),
  }),
  /** How a process was really walked lately. */
  habits: contract({
    method: "GET",
    path: "/api/projects/:key/workflow/habits",
    query: habitsQuery,
    answer: answered<Habits>(),
    kept: "habits",
  }),
  /** A workflow as a file. */
  file: contract({
    method: "GET",
    path: "/api/projects/:key/workflow/export",
    query: exportQuery,
    answer: z.never(),
  }),
  /** The published schema of a workflow's JSON. */
  schema: contract({
    method: "GET",
    path: "/api/formats/workflow.schema.json",
    answer: z.never(),
  }),
  add: contract({
    method: "POST",
    path: "/api/projects/:key/workflows",
    body: newWorkflowBody,
    answer: answered<MadeWorkflow>(),
    largest: LARGEST_FILE,
    status: 201,
  }),
  /** Takes a workflow out or brings it back. */
  editWorkflows: contract({
    method: "POST",
    path: "/api/projects/:key/workflows/taken-out",
    body: workflowEditBody,
    answer: DONE,
  }),
  /** Makes, changes, takes out or brings back an item type. */
  types: contract({
    method: "POST",
    path: "/api/projects/:key/types",
    body: typeEditBody,
    answer: z.object({ movedItems: z.number() }),
  }),
  /** Who may post events to a project. */
  sources: contract({
    method: "GET",
    path: "/api/projects/:key/sources",
    answer: answered<SourcesView>(),
    kept: "sources",
  }),
  changeSources: contract({
    method: "POST",
    path: "/api/projects/:key/sources",
    body: sourceBody,
    answer: z.object({ id: z.string(), secret: z.string().nullable() }),
  }),
  /** Where a source posts its signed events, in a format of its own. */
  events: contract({ method: "POST", path: "/api/events/:source", answer: z.unknown() }),
};
