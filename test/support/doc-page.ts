// A page of the documents as what can be held against the program: its blocks, each with the comment before it that says what
// it is, its links, its pictures, and the command lines in its sentences.

/** A block of code, or a hidden line of set-up, in the order of the page. */
export interface DocStep {
  /** What the comment before it says, `verb: rest`; empty where there is none. */
  readonly said: string;
  readonly content: string;
  readonly line: number;
}

const step = /^<!-- (run: [^\n]+) -->$|(?:^<!-- (\w[\w ]*: [^\n]+) -->\n\n?)?^```\w*\n([^]*?)^```$/gm;

/**
 * The steps of a page.
 *
 * @param page its Markdown
 */
export function stepsOf(page: string): DocStep[] {
  return [...page.matchAll(step)].map(({ index, 1: hidden, 2: said = '', 3: content = '' }) => ({
    said: hidden ?? said,
    content,
    line: page.slice(0, index).split('\n').length,
  }));
}

/** A command of a console block, and the lines that the page shows after it. */
export interface ConsoleCommand {
  readonly command: string;
  readonly shown: readonly string[];
}

/** The commands of a block whose lines begin with `$ `; a line that ends with `\` goes on. */
export function commandsOf(content: string): ConsoleCommand[] {
  return [...content.matchAll(/^\$ ((?:.*\\\n)*.*)\n((?:(?!\$ ).*\n)*)/gm)].map(([, command = '', shown = '']) => ({
    command,
    shown: shown.trimEnd() === '' ? [] : shown.trimEnd().split('\n'),
  }));
}

/** What differs from run to run, and no reader takes for a promise. */
const steady = (line: string): string => line.replace(/\bin \d+ ms\b/g, 'in N ms').trimEnd();

const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

function matchesLine(shown: string, said: string): boolean {
  const parts = steady(shown).split('…').map(escaped);
  return new RegExp(`^${parts.join('.*')}$`).test(steady(said));
}

/**
 * Whether a program said what a page shows: line by line, where `…` in a line stands for anything, and a line that is `…` alone
 * for any number of lines.
 */
export function showsAll(shown: readonly string[], said: readonly string[]): boolean {
  const [first, ...rest] = shown;
  if (first === undefined) return said.every((line) => line.trim() === '');
  if (first.trim() === '…') return said.concat('').some((_, index) => showsAll(rest, said.slice(index)));
  return said[0] !== undefined && matchesLine(first, said[0]) && showsAll(rest, said.slice(1));
}

/** Without what a formatter of Markdown changes in HTML. */
const collapsed = (text: string): string => text.replace(/\s+/g, '').replaceAll('/>', '>');

/** Whether a file holds the pieces of an excerpt (parted by `…`) in their order, whatever the white space. */
export function holdsExcerpt(file: string, excerpt: string): boolean {
  let rest = collapsed(file);
  return excerpt.split('…').every((piece) => {
    const wanted = collapsed(piece);
    const at = rest.indexOf(wanted);
    rest = rest.slice(at + wanted.length);
    return at >= 0;
  });
}

/** The page without its blocks and comments: what is read as sentences. */
const proseOf = (page: string): string => page.replace(/^```[^]*?^```$|<!--[^]*?-->/gm, '');

/** The command lines in the sentences of a page, and those in its blocks. */
export const commandLines = (page: string): string[] => [
  ...[...proseOf(page).matchAll(/`inscriba ([^`]+)`/g)].map(([, words = '']) => words),
  ...stepsOf(page).flatMap(({ content }) =>
    [...content.matchAll(/^(?:\$ )?inscriba ((?! {2})[a-z-].*?)(?: +#.*)?$/gm)].map(([, words = '']) => words),
  ),
];

/** What a page points to: the targets of its links and pictures, with the words that stand for them. */
export const linksOf = (
  page: string,
): { readonly target: string; readonly words: string; readonly isPicture: boolean }[] =>
  [...proseOf(page).matchAll(/(!?)\[((?:[^\][]|\[[^\]]*\])*)\]\(([^)\s]+)\)/g)].map(
    ([, mark, words = '', target = '']) => ({ target, words, isPicture: mark === '!' }),
  );

/** The anchors that headings of a page have where Markdown is shown. */
export const anchorsOf = (page: string): string[] =>
  [...page.matchAll(/^#+ (.*)$/gm)].map(([, heading = '']) =>
    heading
      .toLowerCase()
      .replace(/[^\p{L}\p{N} _-]/gu, '')
      .replaceAll(' ', '-'),
  );
