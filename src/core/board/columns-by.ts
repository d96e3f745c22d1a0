/**
 * What the columns of a board are: the states of workflows, the values of another field (a drop changes that field), or
 * lists that mean nothing and change nothing.
 */
export const COLUMNS_BY = ["state", "assignee", "team", "sprint", "release", "priority", "parent", "label", "free"] as const;
export type ColumnsBy = (typeof COLUMNS_BY)[number];
