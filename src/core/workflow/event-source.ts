/** A project, as it is called. */
export interface NamedProject {
  key: string;
  name: string;
}

/** Somebody outside who posts events to a project. */
export interface SourceView {
  id: string;
  name: string;
  /** Where it takes requests, such as to deploy; null where it takes none. */
  asksAt: string | null;
  createdAt: number;
  lastHeardAt: number | null;
  /** The project that it was added to. */
  of: NamedProject;
  /** The others that it speaks for, as far as whoever looks may see them. */
  alsoFor: NamedProject[];
}

/** Who posts events to a project, and for which further projects they could speak. */
export interface SourcesView {
  sources: SourceView[];
  /** Where whoever looks may change the process too. */
  projects: NamedProject[];
}
