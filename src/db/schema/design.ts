import { index, jsonb, pgTable, text, uuid } from "drizzle-orm/pg-core";
import type { DesignArea, DesignDifference } from "@/core/workflow/design-change";
import { instant } from "./columns";
import { person } from "./people";
import { project } from "./project";

/** What leads changed of how a project works, beside its workflows. */
export const designChange = pgTable(
  "design_change",
  {
    id: uuid("id").primaryKey(),
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    at: instant("at").notNull(),
    byId: text("by_id").references(() => person.id),
    area: text("area").$type<DesignArea>().notNull(),
    said: text("said").notNull(),
    differences: jsonb("differences").$type<DesignDifference[]>().notNull(),
  },
  (t) => [index("design_change_project").on(t.projectId, t.id.desc())],
);
