import { build } from "esbuild";

/*
 * Compiles what runs beside the pages: the application process, the worker, the threads that read
 * mails and meanings, the stand-ins and the small programs of bin. Packages come along in the
 * files, so that starting them reads few files; Next and its kind stay outside.
 *   node bin/build.mjs FOLDER
 */

const [, , outdir] = process.argv;
if (!outdir) throw new Error("node bin/build.mjs FOLDER");

await build({
  entryPoints: {
    run: "bin/run.ts",
    prepare: "bin/prepare.ts",
    check: "bin/check.ts",
    serve: "src/app/serve.ts",
    worker: "src/worker/main.ts",
    "read-mail": "src/server/mail/read-in-thread.ts",
    "read-meaning": "src/server/intake/meaning-in-thread.ts",
    "mail-stand-in": "standins/mail/main.ts",
    "code-stand-in": "standins/code/main.ts",
    "pipeline-stand-in": "standins/pipeline/main.ts",
  },
  outdir,
  outExtension: { ".js": ".cjs" },
  bundle: true,
  platform: "node",
  target: "node20",
  format: "cjs",
  // The application shares its pool of connections with the pages through globalThis, not through
  // modules. The sentence model reads its weights from beside its own files.
  external: ["next", "pg-native", "tsx", "@energetic-ai/*"],
  sourcemap: "linked",
  legalComments: "none",
  logLevel: "warning",
});
