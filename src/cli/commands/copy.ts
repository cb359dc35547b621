import { exitCodeOf, finding, isError, type Finding } from '../../core/findings/finding.js';
import { splitPage } from '../../core/packages/split-page.js';
import { builtPictures, renderEdition, type RenderedEdition } from '../../project/build/build-edition.js';
import { loadConfig } from '../../project/config/config.js';
import { oneTarget } from '../../project/build/one-target.js';
import { visitMessages, type Target } from '../../project/build/visit-messages.js';
import type { Io } from '../io/io.js';
import { countFindings, printFindings } from '../output/print-findings.js';
import type { CommonOptions } from '../run.js';
import { kilobytes } from '../output/tables.js';

/** What of a message is copied. */
export type Piece = 'html' | 'body' | 'css' | 'text' | 'subject';

export interface CopyOptions extends CommonOptions {
  readonly message: string;
  readonly piece: Piece;
  readonly to: readonly string[];
}

/** Some terminals take no more, in bytes. */
const SAFE_LENGTH = 74_000;

/** `copy`. */
export async function copyCommand(options: CopyOptions, io: Io): Promise<number> {
  const { config, findings: problems } = await loadConfig(io.folder);
  const findings: Finding[] = [...problems];
  if (config !== null) {
    const request = { config, messages: [options.message], destinations: options.to };
    const { outcomes, findings: found } = await visitMessages<CopyOutcome>(request, {
      takesEditions: true,
      targets: (targets, own) => oneTarget(targets, own),
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
    if (!findings.some(isError)) await copy(outcomes, options, io, findings);
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

async function copy(
  outcomes: readonly CopyOutcome[],
  { message, piece, quiet }: CopyOptions,
  io: Io,
  findings: Finding[],
): Promise<void> {
  const [first, ...others] = outcomes;
  if (others.length > 0) {
    const data = { name: message, count: String(outcomes.length), example: first?.edition ?? '' };
    findings.push(finding('editions-several', null, data));
    return;
  }
  const text = first?.text ?? '';
  if (text === '') {
    findings.push(finding('piece-missing', null, { name: message, piece }));
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
    findings.push(finding('clipboard-large', null, { size: (size / 1024).toFixed(0) }));
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
