import { finding, type Report } from '../finding.js';
import { parseHtml } from '../html/parse.js';
import { replaceSentinels } from '../html/tags.js';
import { attribute, elementsOf, firstElement } from '../html/tree.js';
import type { Dialect } from '../merge/dialect.js';
import { sampleText } from '../merge/fill.js';
import { systemValues, type MergeFields } from '../merge/model.js';
import { pathsIn } from '../merge/read-neutral.js';
import { tagsAsWritten, tagsInDialect, type TagTexts } from '../merge/write.js';
import { plainText } from '../plaintext/plain-text.js';
import type { TextOptions } from '../plaintext/options.js';
import { SourceText } from '../text/source-text.js';
import type { CompiledMessage } from './compile-message.js';

/** A message, finished for one destination. */
export interface RenderedMessage {
  readonly html: string;
  readonly text: string;
  readonly subject: string;
  readonly subjectSample: string;
  readonly preheader: string | null;
  /** The addresses that its links lead to, each once, in order. */
  readonly links: readonly string[];
}

/** What a destination decides. */
export interface RenderInput {
  readonly dialect: Dialect;
  readonly fields: MergeFields;
  /** The path of a picture in the finished HTML, by the path that the source gives. */
  readonly picturePath: (path: string) => string;
  readonly text: TextOptions;
}

/** Writes a compiled message for a destination: its dialect's merge tags, its pictures' paths, its plain text. */
export function renderMessage(message: CompiledMessage, input: RenderInput, report: Report): RenderedMessage {
  const { tags, doc } = message.source;
  const texts: TagTexts = input.dialect.verbatim ? tagsAsWritten(tags) : tagsInDialect(tags, input.dialect, report);
  checkRequired(message, input.dialect, report);
  if (!input.dialect.webFonts)
    for (const { family } of message.fonts)
      report(finding('font-refused', null, { family, dialect: input.dialect.title }));
  const html = message.html({ tag: texts.write, picture: input.picturePath }, input.dialect.webFonts);
  const finished = parseHtml(new SourceText('index.html', html), input.dialect.delimiters).doc;
  const inText = (text: string): string => replaceSentinels(text, (index) => texts.write(index, 'text'));
  const sample = (index: number): string => sampleText(tags[index], input.fields);
  const links = [...elementsOf(doc.root)].flatMap((element) =>
    element.tag === 'a' ? [attribute(element, 'href') ?? ''] : [],
  );
  return {
    html,
    text: plainText(finished, input.text),
    subject: inText(message.metadata.subject),
    subjectSample: replaceSentinels(message.metadata.subject, sample),
    preheader: message.metadata.preheader === null ? null : inText(message.metadata.preheader),
    links: [...new Set(links.filter((link) => link !== '' && !link.startsWith('#')).map(inText))],
  };
}

function checkRequired(message: CompiledMessage, dialect: Dialect, report: Report): void {
  const { tags, doc } = message.source;
  const used = new Set(
    tags.flatMap((tag) => (tag.kind === 'output' ? pathsIn(tag.value).map((path) => path.segments.join('.')) : [])),
  );
  const body = firstElement(doc.root, 'body');
  const span = body?.startTag ?? { start: 0, end: 0 };
  for (const name of dialect.required.filter((required) => !used.has(required))) {
    const what = (systemValues.get(name) ?? name).replace(/^the /, '');
    report(
      finding('footer-missing', { source: doc.source, span }, { what, dialect: dialect.title, tag: `@{${name}}` }),
    );
  }
}
