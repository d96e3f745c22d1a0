/** The database that test databases are copied from. */
export const TEMPLATE = "zigzag_template";

/** The address of a database on the server that `bin/test` started for this run. */
export function serverUrl(database: string): string {
  const url = process.env.TEST_DATABASE_SERVER;
  if (!url) throw new Error("TEST_DATABASE_SERVER is not set; run bin/test");
  return `${url.replace(/\/[^/]*$/, "")}/${database}`;
}
