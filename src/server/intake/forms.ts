import { receiptOf } from "./report-promises";
import { and, asc, count, eq, gte, isNull, max } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import { readForm, type FormDefinition, type RawAnswers } from "@/core/intake/form";
import { refuse } from "@/core/workflow/refusal";
import { database, transact, type Reader } from "@/db/connection";
import { intakeForm, project, report } from "@/db/schema";
import { writeToRequester } from "../mail/write";
import { enterProject } from "../people/access";
import { roster } from "../people/roster";
import type { Viewer } from "../people/viewer";
import { invalid, notFound, Refused } from "../refused";
import { plainChange, savedChange, type DesignChange } from "@/core/workflow/design-change";
import { announceDesign } from "../workflow/announce";
import { keepDesignChange } from "../workflow/design-history";
import { projectTypes } from "../workflow/load";
import { checkFiles, type SentFile } from "./file";
import { joinKnownProblem } from "./known";
import { storeReport } from "./new-report";
import { v7 as newId } from "uuid";
import type { FormRequest } from "@/core/intake/request";
import type { FormsView } from "@/core/intake/forms-view";

const standing = (projectId: string) =>
  and(eq(intakeForm.projectId, projectId), isNull(intakeForm.removedAt));

/** The forms of a project, for the people who make them. */
export async function readForms(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<FormsView> {
  const db = database();
  const access = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: "read intake",
  });
  const projectId = access.project.id;
  const rows = await db
    .select()
    .from(intakeForm)
    .where(standing(projectId))
    .orderBy(asc(intakeForm.position), asc(intakeForm.slug));
  const lately = await db
    .select({ id: report.formId, n: count() })
    .from(report)
    .where(and(eq(report.projectId, projectId), gte(report.receivedAt, now - 30 * DAY)))
    .groupBy(report.formId);
  const [{ teams }, { types }] = [await roster(db, projectId), await projectTypes(db, projectId)];
  return {
    project: {
      id: projectId,
      key: access.project.key,
      name: access.project.name,
      visibility: access.project.visibility,
    },
    forms: rows.map(({ id, slug, definition, open, embeddable, version }) => ({
      id,
      slug,
      definition,
      open,
      embeddable,
      version,
      lately: lately.find((l) => l.id === id)?.n ?? 0,
    })),
    teams,
    types: types.filter((t) => t.level >= 1).map(({ id, name }) => ({ id, name })),
    mayEdit: access.may("edit workflow"),
  };
}

export const MOST_FORMS = 20;

/**
 * Adds, changes, takes out or brings back a form. A form that is taken out stays with the reports
 * that came by it.
 */
export async function editForm(
  viewer: Viewer,
  projectKey: string,
  request: FormRequest,
): Promise<{ id: string }> {
  return transact(async (tx) => {
    const { project: of } = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: "edit workflow",
    });
    if (request.kind === "add") {
      const [{ n, last }] = await tx
        .select({ n: count(), last: max(intakeForm.position) })
        .from(intakeForm)
        .where(standing(of.id));
      if (n >= MOST_FORMS)
        throw invalid(
          `A project has at most ${MOST_FORMS} forms.`,
          "Take one out that is not used any more.",
        );
      await freeSlug(tx, of.id, request.slug, null);
      const id = newId();
      await tx.insert(intakeForm).values({
        id,
        projectId: of.id,
        slug: request.slug,
        definition: request.definition,
        open: false,
        embeddable: false,
        position: (last ?? -1) + 1,
        version: 1,
      });
      await keepDesignChange(
        tx,
        { projectId: of.id, byId: viewer.personId },
        plainChange("intake", `made the form “${request.definition.title}”`),
      );
      await announceDesign(tx, of.id, { kind: "intake form changed", data: { formId: id } });
      return { id };
    }
    const [row] = await tx
      .select()
      .from(intakeForm)
      .where(and(eq(intakeForm.id, request.id), eq(intakeForm.projectId, of.id)))
      .for("update");
    if (!row) throw notFound("form");
    if (request.kind === "change") {
      if (row.version !== request.seenVersion || row.removedAt !== null)
        throw new Refused(
          refuse(
            "conflict",
            "Somebody else has changed this form meanwhile.",
            "Look at it as it is now, then make your change again.",
          ),
        );
      if (request.slug) await freeSlug(tx, of.id, request.slug, row.id);
      const {
        slug: name = row.slug,
        definition = row.definition,
        open = row.open,
        embeddable = row.embeddable,
      } = request;
      await tx
        .update(intakeForm)
        .set({ slug: name, definition, open, embeddable, version: row.version + 1 })
        .where(eq(intakeForm.id, row.id));
    } else {
      if (request.kind === "bring back") await freeSlug(tx, of.id, row.slug, row.id);
      await tx
        .update(intakeForm)
        .set({ removedAt: request.kind === "remove" ? Date.now() : null, version: row.version + 1 })
        .where(eq(intakeForm.id, row.id));
    }
    await keepDesignChange(
      tx,
      { projectId: of.id, byId: viewer.personId },
      formChange(row, request),
    );
    await announceDesign(tx, of.id, { kind: "intake form changed", data: { formId: row.id } });
    return { id: row.id };
  });
}

/** What is changed of a form, in words. */
function formChange(
  row: typeof intakeForm.$inferSelect,
  request: Exclude<FormRequest, { kind: "add" }>,
): DesignChange | null {
  const what = `the form “${row.definition.title}”`;
  if (request.kind !== "change")
    return plainChange(
      "intake",
      `${request.kind === "remove" ? "took out" : "brought back"} ${what}`,
    );
  const told = (form: Pick<typeof row, "slug" | "definition" | "open" | "embeddable">) => ({
    ...form,
    title: form.definition.title,
    questions: form.definition.questions.map(({ label }) => label),
    lands: JSON.stringify(form.definition.lands),
  });
  const after = { ...row, ...request, slug: request.slug ?? row.slug };
  return savedChange({ area: "intake", what }, told(row), told(after), FORM_TOLD);
}

const FORM_TOLD = {
  title: "title",
  slug: "address",
  questions: "questions",
  lands: "where it lands",
  open: "open",
  embeddable: "on other sites",
} as const;

async function freeSlug(
  reader: Reader,
  projectId: string,
  name: string,
  exceptId: string | null,
): Promise<void> {
  const taken = await reader
    .select({ id: intakeForm.id })
    .from(intakeForm)
    .where(and(standing(projectId), eq(intakeForm.slug, name)));
  if (taken.some((t) => t.id !== exceptId))
    throw invalid(`Another form has the address “${name}”.`, "Choose another.");
}

/** What the outside sees of a project's forms. */
export interface PublicForm {
  projectKey: string;
  projectName: string;
  slug: string;
  definition: FormDefinition;
  open: boolean;
  embeddable: boolean;
}

/** The forms that anybody may open. Projects that are only for their members, or put away, have none. */
export async function publicForms(
  projectKey: string,
): Promise<{ key: string; name: string; forms: PublicForm[] }> {
  const [of] = await database().select().from(project).where(eq(project.key, projectKey));
  if (!of || of.visibility !== "everyone" || of.putAwayAt !== null) throw notFound("report page");
  const rows = await database()
    .select()
    .from(intakeForm)
    .where(and(standing(of.id), eq(intakeForm.open, true)))
    .orderBy(asc(intakeForm.position), asc(intakeForm.slug));
  return {
    key: of.key,
    name: of.name,
    forms: rows.map((row) => ({
      projectKey: of.key,
      projectName: of.name,
      slug: row.slug,
      definition: row.definition,
      open: row.open,
      embeddable: row.embeddable,
    })),
  };
}

/** One public form by its address; a closed one says so, one that is gone does not exist. */
export async function publicForm(
  projectKey: string,
  name: string,
): Promise<PublicForm & { id: string; projectId: string }> {
  const [row] = await database()
    .select({ form: intakeForm, project })
    .from(intakeForm)
    .innerJoin(project, eq(project.id, intakeForm.projectId))
    .where(
      and(eq(project.key, projectKey), eq(intakeForm.slug, name), isNull(intakeForm.removedAt)),
    );
  if (!row || row.project.visibility !== "everyone") throw notFound("form");
  return {
    id: row.form.id,
    projectId: row.project.id,
    projectKey: row.project.key,
    projectName: row.project.name,
    slug: row.form.slug,
    definition: row.form.definition,
    open: row.form.open && row.project.putAwayAt === null,
    embeddable: row.form.embeddable,
  };
}

/** A form that was filled in wrongly: each fault at its question. */
export class FormFaults extends Error {
  constructor(readonly errors: { field: string; message: string }[]) {
    super("Something is missing or not right.");
  }
}

/**
 * Takes in a report from somebody without an account.
 * @param joins the known problem that the requester says it is
 * @returns its reference, and the token that opens its private page
 * @throws FormFaults when answers are missing or wrong; nothing is stored then
 */
export async function submitForm({
  projectKey,
  name,
  raw,
  sent,
  joins = null,
  now = Date.now(),
}: {
  projectKey: string;
  name: string;
  raw: RawAnswers;
  sent: readonly SentFile[];
  joins?: string | null;
  now?: number;
}): Promise<{ reference: string; token: string }> {
  const form = await publicForm(projectKey, name);
  if (!form.open)
    throw new Refused(
      refuse(
        "invalid",
        "This form is closed.",
        "Nothing was sent. Ask whoever gave you its address for another one.",
      ),
    );
  const { questions } = form.definition;
  // Whoever says that a known problem is theirs too says who they are, and no more.
  const asked = joins ? questions.filter((q) => q.fills === "mail") : questions;
  const { report: said, answers, errors } = readForm({ questions: asked }, raw);
  if (errors.length > 0) throw new FormFaults(errors);
  const takesFiles = asked.some((q) => q.fills === "files");
  const files = checkFiles(takesFiles ? sent : []);
  if (takesFiles && files.length === 0 && asked.some((q) => q.fills === "files" && q.required))
    throw new FormFaults([{ field: "files", message: "A picture or a file is needed." }]);
  return transact(async (tx) => {
    const known = joins ? await joinKnownProblem(tx, form.projectId, joins) : null;
    const row = await storeReport({
      tx,
      projectId: form.projectId,
      incoming: {
        ...said,
        title: known?.words ?? said.title,
        happened: known ? "It happens to me too." : said.happened || said.title,
        way: "form",
        formId: form.id,
        answers,
        teamId: form.definition.lands.teamId,
        ...(known ? { standing: known.standing } : {}),
      },
      files,
      now,
    });
    const told = await receiptOf(tx, row, form.definition.thanks, now);
    await writeToRequester(tx, row, told, { now });
    return { reference: row.reference, token: row.token };
  });
}
