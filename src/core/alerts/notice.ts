export interface NoticeView {
  id: number;
  itemKey: string;
  projectKey: string;
  title: string;
  /** All that it is about and may be seen, by their ids; none where it is about one alone. */
  ids: string[];
  text: string;
  at: number;
  read: boolean;
}
