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
