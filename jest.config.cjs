const shared = {
  transform: {
    "^.+\\.tsx?$": [
      "@swc/jest",
      {
        jsc: {
          parser: { syntax: "typescript", tsx: true },
          transform: { react: { runtime: "automatic" } },
          target: "es2022",
        },
      },
    ],
    "^.+\\.m?js$": ["@swc/jest", { jsc: { target: "es2022" } }],
  },
  // Packages that come as ES modules only are translated for Jest.
  transformIgnorePatterns: [
    "/node_modules/(?!(fractional-indexing|feed|temporal-[^/]*|better-auth|@better-auth|better-call|@better-fetch|@noble|nanostores|jose|rou3|defu|kysely|uncrypto|set-cookie-parser|react-markdown|unified|bail|trough|vfile[^/]*|devlop|is-plain-obj|remark-[^/]*|rehype-[^/]*|mdast-[^/]*|hast-[^/]*|unist-[^/]*|micromark[^/]*|decode-named-character-reference|character-entities[^/]*|ccount|escape-string-regexp|markdown-table|longest-streak|zwitch|trim-lines|html-url-attributes|estree-util-is-identifier-name|property-information|space-separated-tokens|comma-separated-tokens|stringify-entities|character-reference-invalid|is-[^/]*|parse-entities)/)",
  ],
  moduleNameMapper: {
    "^@/(.*)$": "<rootDir>/src/$1",
    "^@demo/(.*)$": "<rootDir>/demo/$1",
    "^@tests/(.*)$": "<rootDir>/tests/$1",
  },
  testEnvironment: "node",
  // Handed to each module by name: looked up on the sandbox's global they cost a microsecond each time,
  // and the query builder asks for `Object` a hundred thousand times a second.
  sandboxInjectedGlobals: [
    "Object",
    "Array",
    "Math",
    "Map",
    "Set",
    "Number",
    "String",
    "JSON",
    "Symbol",
    "Reflect",
  ],
  // Copies of the project that other programs make there are not part of it.
  modulePathIgnorePatterns: ["<rootDir>/.data/", "<rootDir>/.mutated/"],
  rootDir: __dirname,
};

module.exports = {
  // The machine may be busy with other things; a test that hangs is still found.
  testTimeout: 400_000,
  projects: [
    {
      ...shared,
      displayName: "core",
      testMatch: [
        "<rootDir>/tests/core/**/*.test.{ts,tsx}",
        "<rootDir>/tests/reference/**/*.test.ts",
      ],
    },
    { ...shared, displayName: "server", testMatch: ["<rootDir>/tests/server/**/*.test.ts"] },
    { ...shared, displayName: "browser", testMatch: ["<rootDir>/tests/browser/**/*.test.ts"] },
  ],
};
