export interface SourceView {
  id: string;
  name: string;
  createdAt: number;
  lastHeardAt: number | null;
}
