import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Finding } from '../../src/core/findings/finding.js';
import { loadConfig } from '../../src/project/config/config.js';
import { FileLog } from '../../src/project/files/file-log.js';
import { loadMessage } from '../../src/project/load/load-message.js';
import { htmlNames, messageFiles } from '../../src/project/load/message-names.js';
import { MessagePreparer } from '../../src/project/visit/prepare-message.js';
import { applyEdits } from '../../src/core/text/apply-edits.js';
import type { TestFolder } from './project.js';

/**
 * Writes the page of a message with its parts put in and its build values filled in, as a browser can show it, beside
 * the message. Returns its path in the folder.
 */
export async function writeExpanded(folder: TestFolder, name: string, edition: string | null = null): Promise<string> {
  const findings: Finding[] = [];
  const report = (item: Finding): unknown => findings.push(item);
  const { config } = await loadConfig(folder.path);
  const file = (await messageFiles(folder.path)).find((candidate) => candidate.name === name);
  if (config === null || file === undefined) throw new Error(`There is no message ${name}.`);
  const files = new FileLog();
  const message = await loadMessage(file, config, { files }, report);
  if (message === null) throw new Error(`${name} cannot be read.`);
  const preparer = new MessagePreparer(message, config, { files, partNames: await htmlNames(folder.path, 'parts') });
  const chosen = preparer.editions(report).find((candidate) => candidate.name === edition);
  const source = chosen === undefined ? null : (preparer.read(chosen, report)?.html ?? null);
  if (source === null) throw new Error(`${name} cannot be expanded.`);
  const path = `messages/expanded-${name}.page`;
  const cuts = source.without.map((span) => ({ span, text: '' }));
  let { text } = applyEdits(source.doc.source.text, cuts);
  for (const [number, [address, { bytes }]] of [...message.slices].entries()) {
    writeFileSync(join(folder.path, `messages/slice-${number}.png`), bytes);
    text = text.replaceAll(address, `slice-${number}.png`);
  }
  writeFileSync(join(folder.path, `${path}.html`), text);
  return `${path}.html`;
}

/** Replaces the merge tags of a page by what a recipient would read; blocks are kept open. */
export function fillTags(path: string): void {
  const html = readFileSync(path, 'utf8');
  const filled = html
    .replace(/@\{(?:each|if|else|end)\b[^}]*\}/g, '')
    .replace(/@\{first_name[^}]*\}/g, 'Ines')
    .replace(/@\{(?:loan\.\w+|member_number)\}/g, '9 May')
    .replace(/@\{[^}]*\}/g, 'https://alderlane.example/x');
  writeFileSync(path, filled);
}
