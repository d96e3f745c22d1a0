export * from "./schema/board";
export * from "./schema/intake";
export * from "./schema/item";
export * from "./schema/people";
export * from "./schema/project";
export * from "./schema/workflow";
