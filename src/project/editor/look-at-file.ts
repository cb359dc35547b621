import { basename, dirname, extname } from 'node:path';
import type { Finding, Report } from '../../core/findings/finding.js';
import { checkSheet } from '../../core/layout/check-sheet.js';
import { readHtmlMessage, readMarkdownBody, splitFrontMatter } from '../../core/template/message-template.js';
import { readFrame, readPart } from '../../core/template/read-part.js';
import { SourceText } from '../../core/text/source-text.js';
import { spanAt } from '../../core/text/span.js';
import { proofFindings } from '../check/prove-dialect-file.js';
import { fileKind } from './file-kind.js';
import { loadConfig } from '../config/config.js';
import { loadDialectFile } from '../config/dialects.js';
import { FileLog } from '../files/file-log.js';
import { CONFIG_FILE } from '../files/project-folder.js';
import type { ReadBytes } from '../files/read-bytes.js';
import { readTextFile } from '../files/text-file.js';
import { loadDataFile } from '../load/data-files.js';
import { isPartName } from '../load/message-names.js';
import { chooseTargets } from '../visit/choose-messages.js';

/** What is wrong with a file by itself, where no message that is looked at has read it. */
export async function lookAtFile(path: string, folder: string, read: ReadBytes): Promise<readonly Finding[]> {
  const findings: Finding[] = [];
  const report: Report = (item) => findings.push(item);
  switch (fileKind(path, folder)) {
    case 'config':
      return lookAtConfig(folder, read);
    case 'dialect': {
      const loaded = await loadDialectFile(path, path, read);
      return loaded.dialect === null ? loaded.findings : proofFindings(loaded);
    }
    case 'data': {
      const place = { source: new SourceText(path, ''), span: spanAt(0, 0) };
      const named = { path: basename(path), place };
      await loadDataFile(named, dirname(path), folder, new FileLog(read), report);
      return findings;
    }
    case 'text':
    case null:
      return [];
    default: {
      const source = await sourceAt(path, read, report);
      if (source !== null) readAlone(source, path, folder, report);
      return findings;
    }
  }
}

/** What is wrong with the configuration, and with the dialects that it names. */
async function lookAtConfig(folder: string, read: ReadBytes): Promise<readonly Finding[]> {
  const { config, findings } = await loadConfig(folder, CONFIG_FILE, read);
  if (config === null) return findings;
  const problems: Finding[] = [];
  await chooseTargets({ config, messages: [], destinations: [], read }, (item) => problems.push(item));
  return problems;
}

/** The text of a file; null, and reported, where it cannot be read. */
async function sourceAt(path: string, read: ReadBytes, report: Report): Promise<SourceText | null> {
  return (await readTextFile(path, path, report, read))?.source ?? null;
}

function readAlone(source: SourceText, path: string, folder: string, report: Report): void {
  const kind = fileKind(path, folder);
  const name = basename(path, extname(path));
  if (kind === 'part' && isPartName(name)) readPart(source, name, report, 'mended');
  if (kind === 'frame') readFrame(source, report, 'mended');
  if (kind === 'style sheet') checkSheet(source, report);
  if (kind !== 'message') return;
  if (path.endsWith('.md')) readMarkdownBody(source, splitFrontMatter(source).body, report, 'mended');
  else readHtmlMessage(source, report, 'mended');
}
