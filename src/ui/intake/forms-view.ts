import type { FormDefinition } from "@/core/intake/form";

/** A project's forms, as whoever makes them sees them. */
export interface FormsView {
  project: { id: string; key: string; name: string; visibility: string };
  forms: {
    id: string;
    slug: string;
    definition: FormDefinition;
    open: boolean;
    embeddable: boolean;
    version: number;
    lately: number;
  }[];
  teams: { id: string; name: string }[];
  types: { id: string; name: string }[];
  mayEdit: boolean;
}
