import { cpSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { repository, TestFolder, type Run } from './project.js';

const fixtures = join(repository, 'test/fixtures/layout');

const configuration = `name: Layouts
sender: { name: Layouts, address: desk@alderlane.example, postal_address: 14 Alder Lane, website: https://alderlane.example }
width: 600
destinations: { plain: { dialect: neutral, images: { mode: package } } }
`;

/** The names of the layout fixtures. */
export const fixtureNames: readonly string[] = readdirSync(fixtures)
  .filter((name) => name.endsWith('.html'))
  .map((name) => name.slice(0, -'.html'.length))
  .sort();

/** A project whose messages are layouts, with the pictures that they show. */
export class LayoutProject {
  readonly folder = new TestFolder();

  constructor(messages: Readonly<Record<string, string>>) {
    cpSync(join(fixtures, 'assets'), join(this.folder.path, 'assets'), { recursive: true });
    this.folder.write({ 'inscriba.yaml': configuration });
    for (const [name, html] of Object.entries(messages)) this.folder.write({ [`messages/${name}.html`]: html });
  }

  /** A project of all fixtures. */
  static ofFixtures(): LayoutProject {
    const project = new LayoutProject({});
    for (const name of fixtureNames)
      cpSync(join(fixtures, `${name}.html`), join(project.folder.path, 'messages', `${name}.html`));
    return project;
  }

  build(): Run {
    return this.folder.run(['build', '--quiet']);
  }

  source(name: string): string {
    return join(this.folder.path, 'messages', `${name}.html`);
  }

  compiled(name: string): string {
    return join(this.folder.path, 'out/plain', name, 'index.html');
  }

  html(name: string): string {
    return this.folder.read(`out/plain/${name}/index.html`);
  }

  remove(): void {
    this.folder.remove();
  }
}
