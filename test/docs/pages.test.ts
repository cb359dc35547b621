import { afterAll, describe, expect, test } from '@jest/globals';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { anchorsOf, commandLines, linksOf } from '../support/doc-page.js';
import { followPage } from '../support/doc-runner.js';
import { repository, TestFolder } from '../support/project.js';
import { removeBuiltDemo } from '../support/shell-session.js';

const pages = ['README.md', 'CONTRIBUTING.md', ...readdirSync(join(repository, 'docs')).filter(isPage).map(inDocs)];
const textOf = (page: string): string => readFileSync(join(repository, page), 'utf8');

/** Pages that the program writes itself; a check of verify holds them against it. */
const generated = ['docs/reference.md', 'docs/checks.md', 'docs/layout.md', 'docs/figures.md', 'docs/engines.md'];

function isPage(name: string): boolean {
  return name.endsWith('.md');
}

function inDocs(name: string): string {
  return `docs/${name}`;
}

afterAll(removeBuiltDemo);

test.each(pages.filter((page) => !generated.includes(page)))(
  '%s is true: its commands say what it shows, and its files do what it says',
  async (page) => {
    expect(await followPage(page)).toEqual([]);
  },
  600_000,
);

describe('what pages point to', () => {
  test.each(pages)('%s: links lead somewhere, and pictures say what they show', (page) => {
    const wrong = linksOf(textOf(page)).filter(({ target, words, isPicture }) => {
      if (/^https?:/.test(target)) return true;
      const [path = '', anchor] = target.split('#');
      const file = path === '' ? page : join(dirname(page), path);
      if (!existsSync(join(repository, file))) return true;
      if (isPicture) return words.length < 8;
      return anchor !== undefined && !anchorsOf(textOf(file)).includes(anchor);
    });
    expect(wrong).toEqual([]);
  });

  test('every picture stands in a page, and there are fewer than twenty', () => {
    const pictures = readdirSync(join(repository, 'docs/screenshots'));
    const shown = new Set(pages.flatMap((page) => linksOf(textOf(page))).map(({ target }) => target.split('/').at(-1)));
    expect(pictures.filter((name) => !shown.has(name))).toEqual([]);
    expect(pictures.length).toBeLessThan(20);
  });

  test('every page of docs/ is reached from the README', () => {
    const reached = linksOf(textOf('README.md')).map(({ target }) => target.split('#')[0]);
    expect(pages.slice(1).filter((page) => !reached.includes(page))).toEqual([]);
  });
});

describe('command lines in sentences and blocks', () => {
  const folder = new TestFolder();
  const helps = new Map<string, string>();
  const helpOf = (words: readonly string[]): string => {
    const name = words.join(' ');
    if (!helps.has(name)) helps.set(name, folder.run([...words, '--help']).out);
    return helps.get(name) ?? '';
  };
  const groups = ['new', 'dialect', 'images'];
  afterAll(() => folder.remove());

  test.each(pages)('%s names commands and options that there are', (page) => {
    const wrong = commandLines(textOf(page)).filter((line) => {
      const words = line.split(/\s+/);
      const command = words.slice(0, groups.includes(words[0] ?? '') && words.length > 1 ? 2 : 1);
      const options = words.filter((word) => word.startsWith('--'));
      if (command[0]?.startsWith('--') === true) return !helpOf([]).includes(command[0]);
      const help = helpOf(command);
      return (
        !help.startsWith(`Usage: inscriba ${command.join(' ')}`) || options.some((option) => !help.includes(option))
      );
    });
    expect(wrong).toEqual([]);
  });
});
