/** The examples of the specification; the package has no types of its own. */
declare module "commonmark-spec" {
  export const tests: readonly {
    number: number;
    section: string;
    markdown: string;
    html: string;
  }[];
}
