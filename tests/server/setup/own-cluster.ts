import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync } from "node:fs";
import { createServer } from "node:net";
import os from "node:os";
import path from "node:path";
import { createTestDatabase } from "./test-database";

const OWN = "zigzag";
const ROOT = path.resolve(__dirname, "../../..");

function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const server = createServer().listen(0, "127.0.0.1", () => {
      const { port } = server.address() as { port: number };
      server.close(() => resolve(port));
    });
  });
}

/**
 * A PostgreSQL server of a test's own, made with the same script as the product's, that may be
 * killed.
 */
export async function ownCluster() {
  const home = mkdtempSync(path.join(os.tmpdir(), "zigzag-cluster-"));
  const port = await freePort();
  const run = (command: string) =>
    execFileSync(
      "bash",
      ["-c", `. bin/setup/packages.sh; . bin/setup/cluster.sh; chmod 755 '${home}'; ${command}`],
      { cwd: ROOT, encoding: "utf8", stdio: ["ignore", "pipe", "inherit"] },
    );
  const start = () => void run(`start_cluster '${home}' ${port} > /dev/null`);
  start();
  const at = (database: string) => run(`cluster_url '${home}' ${port} ${database}`).trim();
  const url = at(OWN);
  const copy = await createTestDatabase();
  run(
    `createdb --maintenance-db='${at("postgres")}' ${OWN}; pg_dump '${copy.url}' | psql -q -v ON_ERROR_STOP=1 -o /dev/null '${url}'`,
  );
  await copy.drop();
  return {
    url,
    start,
    /** As a power cut does it: no warning to anybody. */
    kill: () =>
      process.kill(
        Number(readFileSync(path.join(home, "data/postmaster.pid"), "utf8").split("\n")[0]),
        "SIGKILL",
      ),
    remove: () => void run(`stop_cluster '${home}'; rm -rf '${home}'`),
  };
}
