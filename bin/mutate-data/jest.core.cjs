const path = require("node:path");

// The one file of tests that bundle.mjs made.
module.exports = {
  rootDir: path.join(__dirname, "../.."),
  testMatch: ["<rootDir>/.mutated/core.test.cjs"],
  testPathIgnorePatterns: [],
  transform: {},
  testEnvironment: "node",
  testTimeout: 60_000,
};
