import { checkPage } from '../../src/core/check/check-page.js';
import { allRules } from '../../src/core/check/all-rules.js';
import { Page, type PageInput } from '../../src/core/check/page/page.js';
import type { Example } from '../../src/core/check/facts/rule.js';
import type { Feature } from '../../src/core/engines/engine.js';
import { readEngines } from '../../src/core/engines/read-engines.js';
import type { Dialect } from '../../src/core/dialects/dialect.js';
import { readDialect } from '../../src/core/dialects/file/read-dialect.js';
import { readNeutralTags } from '../../src/core/dialects/read/read-neutral.js';
import type { Finding } from '../../src/core/findings/finding.js';
import { parseHtml } from '../../src/core/html/parse.js';
import { neutralDelimiters } from '../../src/core/html/tags.js';
import { SourceText } from '../../src/core/text/source-text.js';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { repository } from './project.js';

let table: readonly Feature[] | null = null;

/** The table of engines that ships. */
export function engineFeatures(): readonly Feature[] {
  const path = join(repository, 'data/engines.yaml');
  table ??= readEngines(new SourceText('engines.yaml', readFileSync(path, 'utf8'))).features;
  if (table === null) throw new Error('the table of engines cannot be read');
  return table;
}

let platforms: readonly Dialect[] | null = null;

/** A platform whose tags a message may hold by mistake. */
function platformDialects(): readonly Dialect[] {
  const text = (): string => readFileSync(join(repository, 'dialects/bellmoor.yaml'), 'utf8');
  platforms ??= [readDialect(new SourceText('bellmoor.yaml', text())).dialect].filter((dialect) => dialect !== null);
  return platforms;
}

/** What all rules find on an example, as finished HTML in the neutral notation. */
export function checkExample(example: string | Example, more: Partial<PageInput> = {}): Finding[] {
  const { html, text, pictures, preheader, sender, otherSubjects } =
    typeof example === 'string' ? ({ html: example } as Example) : example;
  const isWhole = /^\s*(?:<!doctype|<html|<!--[\s\S]*?-->\s*<html)/i.test(html);
  const source = new SourceText('page.html', isWhole ? html : wholePage(html));
  const { doc, errors } = parseHtml(source, [neutralDelimiters]);
  const isMessage = preheader !== undefined || sender !== undefined || otherSubjects !== undefined;
  const files = Object.entries(pictures ?? {}).map(
    ([path, { width, height, bytes = 1000, format = 'png', isDark = false }]) =>
      [path, { width, height, bytes, format, isDark }] as const,
  );
  const page = new Page({
    doc,
    errors,
    isFinished: !isMessage,
    pictures: pictures === undefined ? null : new Map(files),
    outputs: [],
    ...(text === undefined ? {} : { text }),
    tags: readNeutralTags(source, doc.tags, () => undefined),
    project: isMessage
      ? {
          sender: sender ?? null,
          fields: new Map(),
          otherSubjects: new Map(Object.entries(otherSubjects ?? {})),
        }
      : null,
    dialects: isMessage ? platformDialects() : [],
    features: engineFeatures(),
    engines: null,
    ...(preheader === undefined ? {} : { preheader }),
    ...more,
  });
  return checkPage(page, allRules);
}

function wholePage(body: string): string {
  return `<!doctype html>\n<html lang="en"><head><meta charset="utf-8"><title>Repair Day</title></head><body>\n${body}\n</body></html>\n`;
}
