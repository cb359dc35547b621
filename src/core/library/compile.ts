import { neutralDialect, type Dialect } from '../dialects/dialect.js';
import type { MergeFields } from '../dialects/model.js';
import { sampleRecipient, type SampleRecipient } from '../dialects/sample/fill-sample.js';
import { buildValue, type BuildRecord } from '../expressions/values.js';
import { isError, type Report } from '../findings/finding.js';
import type { PictureSize } from '../layout/content/room.js';
import { compileMessage, type CompiledMessage } from '../message/compile-message.js';
import type { LinkParameter } from '../message/link-parameters.js';
import { readMessage } from '../message/read-message.js';
import { renderMessage, type RenderedMessage } from '../message/render-message.js';
import { withTextAlternatives } from '../message/text-alternative.js';
import { expandPage } from '../template/expand.js';
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
    const compiler = new VersionCompiler(message, parts, files, options);
    const inHtml = compiler.version('html', report);
    const usesMedia = message.page.hasMedia || [...parts.values()].some(({ template }) => template.hasMedia);
    const inText = usesMedia ? compiler.version('text', report) : inHtml;
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

class VersionCompiler {
  constructor(
    private readonly message: HtmlMessage,
    private readonly parts: ReadonlyMap<string, Part>,
    private readonly files: CompileFiles,
    private readonly options: CompileOptions,
  ) {}

  /** What the HTML or the text version is made from. Null where it cannot be expanded. */
  version(medium: 'html' | 'text', report: Report): CompiledMessage | null {
    const { fields = new Map(), values = {}, width = 600 } = this.options;
    const own: BuildRecord = new Map(Object.entries(values).map(([name, value]) => [name, buildValue(value)]));
    const { value: expanded, findings } = collected((say) =>
      expandPage(this.message.page, null, {
        values: own,
        shared: new Map(),
        parts: this.parts,
        partNames: [...this.parts.keys()],
        medium,
        language: this.message.language,
        fields: new Set(fields.keys()),
        report: say,
      }),
    );
    findings.forEach(report);
    if (findings.some(isError)) return null;
    const source = readMessage(
      withTextAlternatives(expanded, medium),
      { fields, buildNames: new Set(own.keys()) },
      report,
    );
    const { pictureSize = () => null } = this.files;
    return compileMessage(source, { styleSheet: (path) => this.sheet(path), pictureSize, width, fonts: [] }, report);
  }

  private sheet(path: string): SourceText | null {
    const text = this.files.styleSheet?.(path) ?? null;
    return text === null ? null : sourceOf(text, path);
  }
}
