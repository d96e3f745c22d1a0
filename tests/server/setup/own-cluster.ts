import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync } from "node:fs";
import { createServer } from "node:net";
import os from "node:os";
import path from "node:path";
import { TEMPLATE } from "./server-url";

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
  const url = run(`cluster_url '${home}' ${port} ${TEMPLATE}`).trim();
  // The demo is loaded by a process of its own, as in the product; inside Jest it takes several
  // times as long.
  execFileSync(process.execPath, ["--import", "tsx", path.join(__dirname, "make-template.ts")], {
    cwd: ROOT,
    env: { ...process.env, TEST_DATABASE_SERVER: url },
    stdio: "inherit",
  });
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
