import { neutralDialect, type Dialect } from '../dialects/dialect.js';
import type { MergeFields } from '../dialects/model.js';
import { sampleRecipient, type SampleRecipient } from '../dialects/sample/fill-sample.js';
import { buildValue, type BuildRecord } from '../expressions/values.js';
import { isError, watched, type Report } from '../findings/finding.js';
import type { PictureSize } from '../layout/content/room.js';
import { compileMessage, type CompiledMessage } from '../message/compile-message.js';
import type { LinkParameter } from '../message/link-parameters.js';
import { readMessage, type MessageSource, type MessageSources } from '../message/read-message.js';
import { renderMessage, type RenderedMessage } from '../message/render-message.js';
import { expandPage } from '../template/expand.js';
import { breaksPage } from '../template/expansion.js';
import { readHtmlMessage, type HtmlMessage } from '../template/message-template.js';
import type { Part } from '../template/nodes.js';
import { readPart } from '../template/read-part.js';
import type { SourceText } from '../text/source-text.js';
import { textWidth } from '../text/text-width.js';
import { collected, sourceOf, type Result, type Text } from './result.js';

/** What a message names and the caller has at hand. */
export interface CompileFiles {
  /** The text of a style sheet by the path that the message gives; null where there is none. */
  readonly styleSheet?: (path: string) => Text | null;
  /** The size of a picture in its own pixels, by the path that the message gives; null where it is not known. */
  readonly pictureSize?: (path: string) => PictureSize | null;
  /** The HTML of the parts that messages may use, by their names (`tool-card`). */
  readonly parts?: Readonly<Record<string, Text>>;
}

/** What a message is compiled for. */
export interface CompileOptions {
  /** The dialect of its merge tags; the neutral notation where this is not said. */
  readonly to?: Dialect;
  /** The recipient's fields. */
  readonly fields?: MergeFields;
  /** Values that `${…}` fills in while it is compiled. */
  readonly values?: Readonly<Record<string, unknown>>;
  /** The width in px of a message whose own styles bound none; 600 where this is not said. */
  readonly width?: number;
  /** The path of a picture in the finished HTML, by that which the message gives; the same where this is not said. */
  readonly picturePath?: (path: string) => string;
  /** What is added to every web link. */
  readonly linkParameters?: readonly LinkParameter[];
  /** Columns that a line of the text version may take; 72 where this is not said. */
  readonly textWidth?: number;
  /** Whose data fill the sample of the subject. */
  readonly recipient?: SampleRecipient;
}

/**
 * Compiles a message, ordinary HTML and CSS, to table-based HTML with inlined styles, and its plain-text version. Null, with
 * findings, where something of it has no equal there.
 * @example
 * const { value, findings } = compile(page, { styleSheet: (path) => sheets[path] ?? null }, { to: ferrywire });
 */
export function compile(
  html: Text,
  files: CompileFiles = {},
  options: CompileOptions = {},
): Result<RenderedMessage | null> {
  const { to: dialect = neutralDialect, fields = new Map(), picturePath = (path: string) => path } = options;
  const system = { company: '', postalAddress: '', year: 0, unsubscribe: null };
  const { value, findings } = collected((report) => {
    const message = readHtmlMessage(sourceOf(html, 'index.html'), report);
    const parts = readParts(files, report);
    if (message === null) return null;
    const read = readExpanded(message, parts, options, report);
    if (read === null) return null;
    const inHtml = compileVersion(read.html, files, options, report);
    const inText =
      read.text === read.html ? inHtml : compileVersion(read.text, files, { ...options, onlyText: true }, report);
    if (inHtml === null || inText === null) return null;
    return renderMessage(
      { html: inHtml, text: inText, writtenText: null },
      {
        dialect,
        fields,
        recipient: options.recipient ?? sampleRecipient(fields, system, message.language),
        picturePath,
        text: { width: options.textWidth ?? 72, links: 'notes', measure: textWidth },
        linkParameters: options.linkParameters ?? [],
      },
      report,
    );
  });
  return { value: findings.some(isError) ? null : value, findings };
}

function readParts({ parts = {} }: CompileFiles, report: Report): ReadonlyMap<string, Part> {
  return new Map(
    Object.entries(parts).flatMap(([name, html]): [string, Part][] => {
      const part = readPart(sourceOf(html, `${name}.html`), name, report);
      return part === null ? [] : [[name, part]];
    }),
  );
}

/** What the HTML and the text version are made from. Null where it cannot be expanded. */
function readExpanded(
  { page, language }: HtmlMessage,
  parts: ReadonlyMap<string, Part>,
  { fields = new Map(), values = {} }: CompileOptions,
  report: Report,
): MessageSources | null {
  const own: BuildRecord = new Map(Object.entries(values).map(([name, value]) => [name, buildValue(value)]));
  const partNames = [...parts.keys()];
  const { report: inTemplates, hasFailed } = watched(report, breaksPage);
  const expanded = expandPage(page, null, {
    ...{ values: own, shared: new Map(), parts, partNames, language },
    ...{ fields: new Set(fields.keys()), report: inTemplates },
  });
  return hasFailed() ? null : readMessage(expanded, { fields, buildNames: new Set(own.keys()) }, report);
}

function compileVersion(
  source: MessageSource,
  { styleSheet = () => null, pictureSize = () => null }: CompileFiles,
  { width = 600, onlyText = false }: CompileOptions & { readonly onlyText?: boolean },
  report: Report,
): CompiledMessage | null {
  const sheet = (path: string): SourceText | null => {
    const text = styleSheet(path);
    return text === null ? null : sourceOf(text, path);
  };
  return compileMessage(source, { styleSheet: sheet, pictureSize, width, fonts: [], onlyText }, report);
}
