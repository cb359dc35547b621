import { isMap, isScalar, type Node } from 'yaml';
import { finding, type Place, type Report } from '../../core/findings/finding.js';
import {
  metadataKeys,
  splitFrontMatter,
  type FrontMatterText,
  type NamedFile,
} from '../../core/template/message-template.js';
import { buildValue, isList, textOf, type BuildRecord, type BuildValue } from '../../core/expressions/values.js';
import type { SourceText } from '../../core/text/source-text.js';
import type { Span } from '../../core/text/span.js';
import { parseYaml } from '../../core/yaml/read-yaml.js';

/** The front matter of a Markdown message, read. */
export interface FrontMatter {
  readonly subject: FrontMatterText | null;
  readonly frame: FrontMatterText | null;
  readonly metas: readonly (readonly [name: string, value: FrontMatterText])[];
  readonly data: readonly NamedFile[];
  readonly editions: NamedFile | null;
  readonly editionName: FrontMatterText | null;
  readonly language: string | null;
  /** All of it, as build values. */
  readonly values: BuildRecord;
  /** Those of its texts that hold build values or merge tags. */
  readonly lines: readonly (readonly [key: string, value: FrontMatterText])[];
  readonly body: Span;
  /** Where something that is missing would stand. */
  readonly place: Place;
}

/** Reads the front matter of a Markdown message. Null where it has none that can be read. */
export function readFrontMatter(source: SourceText, frames: readonly string[], report: Report): FrontMatter | null {
  const { frontMatter, body } = splitFrontMatter(source);
  const top = { source, span: { start: 0, end: Math.max(1, source.lineText(1).length) } };
  if (frontMatter === null) {
    report(finding('front-matter-missing', top, { frame: frames[0] ?? 'letterhead' }));
    return null;
  }
  const { document, data: read, problems } = parseYaml(source.slice(frontMatter));
  const [problem] = problems;
  if (document === null || problem !== undefined) {
    const { detail = '', span = top.span } = problem ?? {};
    report(finding('data-syntax', { source, span }, { detail }));
    return null;
  }
  const placeOf = (key: string): Place => {
    const pair = isMap(document.contents)
      ? document.contents.items.find((item) => isScalar(item.key) && String(item.key.value) === key)
      : undefined;
    const range = (pair?.value as Node | null | undefined)?.range ?? (pair?.key as Node | undefined)?.range;
    return range ? { source, span: { start: range[0], end: range[1] } } : top;
  };
  const data = buildValue(read);
  const values: BuildRecord = data instanceof Map ? data : new Map<string, BuildValue>();
  return new Reader(values, placeOf, report).read(body, top);
}

class Reader {
  constructor(
    private readonly values: BuildRecord,
    private readonly placeOf: (key: string) => Place,
    private readonly report: Report,
  ) {}

  read(body: Span, place: Place): FrontMatter {
    const metas = [...metadataKeys].flatMap((key) =>
      key === 'attachment'
        ? this.list(key).map((value) => [key, value] as const)
        : this.joined(key).map((value) => [key, value] as const),
    );
    const editions = this.text('editions');
    return {
      subject: this.text('subject') ?? this.text('title'),
      frame: this.text('frame'),
      metas,
      data: this.list('data').map(({ text, place: at }) => ({ path: text, place: at })),
      editions: editions === null ? null : { path: editions.text, place: editions.place },
      editionName: this.text('edition-name'),
      language: this.text('lang')?.text ?? null,
      values: this.values,
      lines: [...this.values].flatMap(([key, value]) =>
        typeof value === 'string' && /[@$]\{/.test(value) && key !== 'edition-name'
          ? [[key, { text: value, place: this.placeOf(key) }] as const]
          : [],
      ),
      body,
      place,
    };
  }

  private text(key: string): FrontMatterText | null {
    const value = this.values.get(key);
    if (value === undefined || value === null) return null;
    const text = textOf(value);
    if (text === null) this.report(finding('front-matter-value', this.placeOf(key), { key, expected: 'a text' }));
    return text === null ? null : { text, place: this.placeOf(key) };
  }

  /** A list, or a single text. */
  private list(key: string): FrontMatterText[] {
    const value = this.values.get(key);
    if (!isList(value)) {
      const single = this.text(key);
      return single === null ? [] : [single];
    }
    return value.map((item) => ({ text: textOf(item) ?? '', place: this.placeOf(key) }));
  }

  /** A text; a list becomes one, with commas. */
  private joined(key: string): FrontMatterText[] {
    const items = this.list(key);
    return items.length === 0 ? [] : [{ text: items.map(({ text }) => text).join(', '), place: this.placeOf(key) }];
  }
}
