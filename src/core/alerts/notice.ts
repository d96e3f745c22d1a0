export interface NoticeView {
  id: number;
  itemKey: string;
  projectKey: string;
  title: string;
  text: string;
  at: number;
  read: boolean;
}
