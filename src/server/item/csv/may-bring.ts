import { database } from "@/db/connection";
import { enterProject } from "../../people/access";
import type { Viewer } from "../../people/viewer";

/** Whether somebody may make items of a table in a project. @throws Refused where they see none */
export async function readMayBring(viewer: Viewer, projectKey: string): Promise<boolean> {
  const where = { key: projectKey };
  const access = await enterProject({
    reader: database(),
    viewer,
    where,
    action: "read project",
  });
  return access.may("create item");
}
