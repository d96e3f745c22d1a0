export interface SourceView {
  id: string;
  name: string;
  /** Where it takes requests, such as to deploy; null where it takes none. */
  asksAt: string | null;
  createdAt: number;
  lastHeardAt: number | null;
}
