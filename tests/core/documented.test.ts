import { readdirSync, readFileSync } from "node:fs";
import ts from "typescript";

const isExported = (statement: ts.Statement): boolean =>
  ts.canHaveModifiers(statement) &&
  (ts.getModifiers(statement) ?? []).some((m) => m.kind === ts.SyntaxKind.ExportKeyword);

/** The name of a function that a statement declares, in either way of writing it. */
function declaredFunction(statement: ts.Statement): string | null {
  if (ts.isFunctionDeclaration(statement)) return statement.name?.text ?? null;
  if (!ts.isVariableStatement(statement)) return null;
  const [{ name, initializer }] = statement.declarationList.declarations;
  return initializer && ts.isArrowFunction(initializer) ? name.getText() : null;
}

function withoutComment(file: string): string[] {
  const source = ts.createSourceFile(
    file,
    readFileSync(file, "utf8"),
    ts.ScriptTarget.Latest,
    true,
  );
  return source.statements
    .filter((s) => isExported(s) && ts.getJSDocCommentsAndTags(s).length === 0)
    .flatMap((s) => declaredFunction(s) ?? [])
    .map((name) => `${file}: ${name}`);
}

const files = readdirSync("src/core", { recursive: true, encoding: "utf8" })
  .filter((name) => /\.tsx?$/.test(name))
  .map((name) => `src/core/${name}`);

test("what the core offers says what it does", () => {
  expect(files.length).toBeGreaterThan(100);
  expect(files.flatMap(withoutComment)).toEqual([]);
});
