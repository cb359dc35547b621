import { exitCodeOf, finding, isError, type Finding, type Report } from '../../core/findings/finding.js';
import { splitPage } from '../../core/packages/split-page.js';
import { builtPictures, renderEdition, type RenderedEdition } from '../../project/visit/render-edition.js';
import { loadConfig } from '../../project/config/config.js';
import { oneTarget } from '../../project/visit/one-target.js';
import { visitMessages } from '../../project/visit/visit-messages.js';
import type { Target } from '../../project/visit/target.js';
import type { Io } from '../io/io.js';
import { countFindings, printFindings } from '../output/print-findings.js';
import { command, textAsList, word, wordOf, type CommonOptions, type Told } from '../io/command.js';
import { kilobytes } from '../../core/text/amounts.js';

/** What of a message can be copied. */
const pieces = ['html', 'body', 'css', 'text', 'subject'] as const;

type Piece = (typeof pieces)[number];

const options = {
  to: textAsList('--to <destination>', 'as for this destination (needed where there are several)'),
};

type CopyOptions = Told<typeof options> & CommonOptions & { readonly message: string; readonly piece: Piece };

/** `copy`. */
export const copy = command({
  name: 'copy',
  description:
    'Puts a piece of a message, as it is for a destination, on the clipboard, to be pasted into the form of a platform. Where the output goes to a file or another program, the piece goes there.',
  arguments: {
    message: word('<message>', 'the name of a message, or of an edition (branch-notice/mill-yard)'),
    piece: wordOf(pieces, '<piece>', 'the whole page, its body or style sheet alone, the plain text, the subject'),
  },
  options,
  examples: [
    'inscriba copy may-newsletter html --to members',
    'inscriba copy may-newsletter subject --to members | wc -m',
  ],
  run,
});

/** Some terminals take no more, in bytes. */
const SAFE_LENGTH = 74_000;

async function run(options: CopyOptions, io: Io): Promise<number> {
  const { config, findings: problems } = await loadConfig(io.folder);
  const findings: Finding[] = [...problems];
  if (config !== null) {
    const request = { config, messages: [options.message], destinations: options.to };
    const { outcomes, findings: found } = await visitMessages<CopyOutcome>(request, {
      takesEditions: true,
      targets: oneTarget,
      failed: () => ({ findings: [], edition: null, text: null }),
      visit: async (task, ready, target) => {
        const own: Finding[] = [];
        const folder = builtPictures(task, ready, target);
        const done = await renderEdition(task, ready, target, folder, (item) => own.push(item));
        const text = done === null ? null : pieceOf(done, options.piece, target);
        return { findings: own, edition: ready.edition.name, text };
      },
    });
    findings.push(...found);
    if (!findings.some(isError)) await deliver(outcomes, options, io, (item) => findings.push(item));
  }
  printFindings(findings, io, options.color);
  if (!options.quiet && findings.length > 0 && config !== null) io.err(`${countFindings(findings)}.\n`);
  return exitCodeOf(findings);
}

interface CopyOutcome {
  readonly findings: readonly Finding[];
  readonly edition: string | null;
  readonly text: string | null;
}

function pieceOf({ rendered }: RenderedEdition, piece: Piece, { dialect }: Target): string {
  switch (piece) {
    case 'html':
    case 'text':
    case 'subject':
      return rendered[piece];
    case 'body':
    case 'css':
      return splitPage(rendered.html, dialect.delimiters)[piece];
  }
}

async function deliver(
  outcomes: readonly CopyOutcome[],
  { message, piece, quiet }: CopyOptions,
  io: Io,
  report: Report,
): Promise<void> {
  const [first, ...others] = outcomes;
  if (others.length > 0) {
    const data = { name: message, count: String(outcomes.length), example: first?.edition ?? '' };
    report(finding('editions-several', null, data));
    return;
  }
  const text = first?.text ?? '';
  if (text === '') {
    report(finding('piece-missing', null, { name: message, piece }));
    return;
  }
  if (!io.outIsTerminal) {
    // A line that is pasted has no end; what is printed has one.
    io.out(text.endsWith('\n') ? text : `${text}\n`);
    return;
  }
  const way = await io.toClipboard(text);
  const size = Buffer.byteLength(text);
  if (way === 'terminal' && size > SAFE_LENGTH)
    report(finding('clipboard-large', null, { size: (size / 1024).toFixed(0) }));
  const by = way === 'terminal' ? 'by the terminal' : `by ${way}`;
  if (!quiet) io.err(`On the clipboard, ${by}: the ${pieceNames[piece]} of ${message}, ${lengthOf(text)}\n`);
}

function lengthOf(text: string): string {
  return text.length < 1000 ? `${[...text].length} characters` : kilobytes(Buffer.byteLength(text));
}

const pieceNames: Readonly<Record<Piece, string>> = {
  html: 'page',
  body: 'body',
  css: 'style sheet',
  text: 'plain text',
  subject: 'subject',
};
