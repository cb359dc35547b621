import { TestFolder } from './project.js';

const configuration = `name: Alder Lane Tool Library
sender:
  name: Alder Lane Tool Library
  address: desk@alderlane.example
  website: https://alderlane.example
fields:
  first_name: { sample: Ines }
  branch: { sample: Mill Yard }
  loans: { list: { tool: text } }
checks: { subject-no-fallback: off }
destinations:
  plain: { dialect: neutral }
`;

/** A page around content, with more for its head on line 2 and the content from line 3 on. */
export function page(content: string, head = ''): string {
  return `<!doctype html><html lang="en"><head><title>Subject</title>
${head}</head><body>
${content}
</body></html>
`;
}

/** A project of one destination, `plain`, in the neutral dialect, with the given files. */
export function projectOf(files: Readonly<Record<string, string>>): TestFolder {
  return new TestFolder().write({ 'inscriba.yaml': configuration, ...files });
}

/** The text of a built message, without line ends around it. */
export function builtText(folder: TestFolder, name: string): string {
  return folder.read(`out/plain/${name}/index.txt`).trim();
}

/** What is wrong, as `place code`, in the order in which it is printed. */
export function findingsOf(err: string): string[] {
  return err
    .split('\n')
    .flatMap((line) => /^(?:(\S+:\d+:\d+) {2})?(?:error|warning|note) {2}(\S+)/.exec(line) ?? [])
    .flatMap((_, index, all) => (index % 3 === 0 ? [`${all[index + 1] ?? ''} ${all[index + 2] ?? ''}`.trim()] : []));
}
