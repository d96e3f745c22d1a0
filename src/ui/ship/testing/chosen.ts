/** What is looked at among the tests: an item that is to be tested, or a run. */
export interface Chosen {
  item?: string;
  run?: number;
}
