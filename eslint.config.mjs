import next from "eslint-config-next";
import { createTypeScriptImportResolver } from "eslint-import-resolver-typescript";
import importX from "eslint-plugin-import-x";
import regexp from "eslint-plugin-regexp";

/**
 * Which parts of the source a part may import; architecture in one table. Everything across parts
 * goes by "@/".
 */
const PARTS = ["core", "db", "server", "worker", "ui", "app"];
const MAY_IMPORT = {
  core: ["core"],
  db: ["core", "db"],
  server: ["core", "db", "server"],
  worker: ["core", "db", "server", "worker"],
  ui: ["core", "ui"],
  app: ["core", "server", "ui", "app", "db"],
};
/**
 * Packages that a part must not touch: the core stays pure, the interface never reaches the
 * database.
 */
const CLOSED_PACKAGES = {
  core: [
    "react",
    "react-dom",
    "next",
    "next/*",
    "pg",
    "drizzle-orm",
    "drizzle-orm/*",
    "pino",
    "better-auth",
    "better-auth/*",
    "node:*",
    "fs",
    "path",
    "crypto",
  ],
  ui: ["pg", "drizzle-orm", "drizzle-orm/*", "pino", "better-auth", "better-auth/*", "node:*"],
  server: ["react", "react-dom", "next", "next/*"],
  worker: ["react", "react-dom", "next", "next/*"],
};

const BOUNDED_BODIES = {
  selector:
    'CallExpression[callee.object.name="request"][callee.property.name=/^(json|text|formData|arrayBuffer|blob|bytes)$/]',
  message: "Read bodies with readBytes or readJson: they are bounded.",
};
/** Every change of an item goes through one door, which decides, and one store, which writes. */
const ONE_DOOR = [
  {
    selector: "CallExpression[callee.name=/^(decide|storeEvents)$/]",
    message: "Items change through server/item/door.ts alone.",
  },
  {
    selector:
      "CallExpression[callee.property.name=/^(insert|update|delete)$/][arguments.0.name=/^(item|itemEvent|itemText|stay|flowPassage|boxMembership|block|comment|itemLink)$/]",
    message: "What is known of items is written by server/item/store.ts alone.",
  },
  {
    selector: "CallExpression[callee.name=/^(decideReport|storeReportEvents)$/]",
    message: "Reports change through server/intake/door.ts alone.",
  },
  {
    selector:
      "CallExpression[callee.property.name=/^(insert|update|delete)$/][arguments.0.name=/^(report|reportEvent)$/]",
    message: "What is known of reports is written by server/intake/store.ts alone.",
  },
  {
    selector: "CallExpression[callee.property.name='insert'][arguments.0.name='domainEvent']",
    message: "What happened is told by server/events/announce.ts alone.",
  },
];

/** What pages ask of the server stands in contracts, with its address and its types. */
const CONTRACTS = [
  {
    selector: ":matches(Literal[value=/^.api.(?!$)/], TemplateElement[value.raw=/^.api./])",
    message: "Addresses stand in core/<domain>/contract.ts; ask() and addressOf() make them.",
  },
  {
    selector: "CallExpression[callee.name='fetch'][arguments.0.callee.name!='addressOf']",
    message: "Ask the server by a contract: ask() in ui/kit/request.ts.",
  },
];

/** Screens are made of ui/kit: no control in the browser's own look, none dressed by hand. */
const KIT = [
  {
    selector: "JSXOpeningElement[name.name=/^(select|textarea|input|dialog)$/]",
    message: "Controls come from ui/kit: Select, TextInput, TextArea, Check, DateInput, FilePick …",
  },
  {
    selector:
      "JSXAttribute[name.name='className'] :matches(Literal[value=/(^| )(button|field)( |$)/], TemplateElement[value.raw=/(^| )(button|field)( |$)/])",
    message: "Button, ButtonLink and TextInput in ui/kit know their classes.",
  },
  {
    selector: "ImportDeclaration[source.value='radix-ui']",
    message: "Radix is used in ui/kit alone.",
  },
];

/** Ids grow with time, and whoever asks for something makes its id. */
const ORDERED_IDS = {
  selector:
    "CallExpression:matches([callee.name='randomUUID'], [callee.property.name='randomUUID'])",
  message: 'Ids are UUIDs of version 7: import { v7 as newId } from "uuid".',
};

const importRules = PARTS.map((part) => ({
  files: [`src/${part}/**/*.{ts,tsx}`],
  rules: {
    "no-restricted-imports": [
      "error",
      {
        patterns: [
          ...PARTS.filter((p) => !MAY_IMPORT[part].includes(p)).map((p) => ({
            group: [`@/${p}`, `@/${p}/*`, `**/src/${p}/*`],
            message: `src/${part} does not import src/${p}.`,
          })),
          ...(part === "app"
            ? []
            : [
                {
                  group: ["@demo/*", "@tests/*"],
                  message: `src/${part} does not import the demo or the tests.`,
                },
              ]),
          ...(CLOSED_PACKAGES[part]
            ? [{ group: CLOSED_PACKAGES[part], message: `src/${part} does not use this package.` }]
            : []),
        ],
      },
    ],
  },
}));

const config = [
  {
    ignores: [
      ".next/**",
      ".next-test/**",
      ".built/**",
      ".built-test/**",
      ".next-bench/**",
      ".built-bench/**",
      ".mutated/**",
      ".data/**",
      "node_modules/**",
      "next-env.d.ts",
      "src/db/migrations/**",
    ],
  },
  ...next,
  ...importRules,
  {
    // The simulated outside world knows the product as any other server would: by its formats.
    files: ["standins/**/*.ts"],
    rules: {
      "no-restricted-imports": [
        "error",
        {
          patterns: [
            {
              group: [
                "@/db/*",
                "@/server/*",
                "@/worker/*",
                "@/ui/*",
                "@/app/*",
                "@demo/*",
                "@tests/*",
                "**/src/*",
              ],
              message: "standins imports the core's formats at most.",
            },
          ],
        },
      ],
    },
  },
  {
    // What imports itself over others cannot be read from its beginning. (Types alone are looked at
    // by tests/core/imports.test.ts.)
    files: ["src/**/*.{ts,tsx}", "demo/**/*.ts", "bin/**/*.ts"],
    plugins: { "import-x": importX },
    settings: {
      "import-x/resolver-next": [createTypeScriptImportResolver()],
      "import-x/parsers": { "@typescript-eslint/parser": [".ts", ".tsx"] },
      "import-x/extensions": [".ts", ".tsx"],
    },
    rules: { "import-x/no-cycle": ["error", { ignoreExternal: true }] },
  },
  {
    // More than four things are named where they are given.
    files: ["src/**/*.{ts,tsx}", "demo/**/*.ts", "bin/**/*.ts"],
    rules: { "max-params": ["error", 4] },
  },
  {
    // A component or a hook fits a screen.
    files: ["src/ui/**/*.{ts,tsx}"],
    rules: { "max-lines-per-function": ["error", { max: 120 }] },
  },
  {
    // What is a type is imported as one.
    files: ["{src,tests,demo,bin,standins}/**/*.{ts,tsx}"],
    rules: {
      "@typescript-eslint/consistent-type-imports": [
        "error",
        { fixStyle: "inline-type-imports", disallowTypeAnnotations: false },
      ],
    },
  },
  {
    // The core decides from what it is given: no clock, no chance.
    files: ["src/core/**/*.ts"],
    rules: {
      "no-restricted-properties": [
        "error",
        { object: "Date", property: "now", message: "Time is passed in." },
        { object: "Math", property: "random", message: "Randomness is passed in." },
      ],
    },
  },
  {
    // Bodies are read by readBytes and readJson alone, which stop at a bound.
    files: ["src/app/**/*.{ts,tsx}"],
    rules: { "no-restricted-syntax": ["error", BOUNDED_BODIES, ORDERED_IDS, ...ONE_DOOR] },
  },
  {
    files: ["src/server/**/*.ts", "src/worker/**/*.ts"],
    rules: { "no-restricted-syntax": ["error", ORDERED_IDS, ...ONE_DOOR] },
  },
  {
    files: [
      "src/server/{item,intake}/{decide-errand,door,store}.ts",
      "src/server/item/store-*.ts",
      "src/server/events/announce.ts",
    ],
    rules: { "no-restricted-syntax": ["error", ORDERED_IDS] },
  },
  {
    files: ["src/ui/**/*.{ts,tsx}"],
    rules: { "no-restricted-syntax": ["error", ORDERED_IDS, ...CONTRACTS, ...KIT] },
  },
  {
    files: ["src/ui/kit/**/*.{ts,tsx}"],
    rules: { "no-restricted-syntax": ["error", ORDERED_IDS, ...CONTRACTS] },
  },
  {
    // Patterns meet text from outside: each must be done in one pass, whatever the text.
    files: ["src/**/*.{ts,tsx}", "standins/**/*.ts"],
    plugins: { regexp },
    rules: {
      "regexp/no-super-linear-backtracking": ["error", { report: "potential" }],
      "regexp/no-super-linear-move": ["error", { report: "potential" }],
    },
  },
  {
    rules: {
      "react/no-unescaped-entities": "off",
    },
  },
];

export default config;
