import type { FormDefinition } from "./form";

export interface FormView {
  id: string;
  slug: string;
  definition: FormDefinition;
  open: boolean;
  embeddable: boolean;
  version: number;
  /** Reports that came by it in the last thirty days. */
  lately: number;
}

export interface FormsView {
  project: { id: string; key: string; name: string; visibility: string };
  forms: FormView[];
  teams: { id: string; name: string }[];
  types: { id: string; name: string }[];
  mayEdit: boolean;
}

export type StoredForm = FormsView["forms"][number];

/** What is typed and not stored yet, and the version of the form that it began with. */
export type FormDraft = Pick<StoredForm, "definition" | "slug" | "version">;

/** What is to be stored of a form. */
export type FormChange = Partial<Pick<StoredForm, "definition" | "slug" | "open" | "embeddable">>;
