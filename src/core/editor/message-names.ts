import { attribute } from '../html/tree.js';
import { isStyleLink } from '../css/cascade/sheets.js';
import { valueSpan } from '../template/read-values.js';
import type { Span } from '../text/span.js';
import { entriesOf, entryAt, textsOf } from '../yaml/yaml-tree.js';
import type { MarkupFile } from './markup-file.js';

/** A text with its place. */
export interface WrittenText {
  readonly text: string;
  readonly span: Span;
}

/** What a message names: its data, its frame, its editions, its topic. */
export interface MessageNames {
  readonly data: readonly WrittenText[];
  readonly editions: WrittenText | null;
  readonly editionName: WrittenText | null;
  readonly frame: string | null;
  /** Style sheets and attachments. */
  readonly files: readonly WrittenText[];
  /** What it says of itself, by the names of the metadata. */
  readonly said: ReadonlyMap<string, readonly string[]>;
}

/** Metadata whose values come again in other messages. */
const repeated: readonly string[] = ['topic', 'keywords', 'from', 'reply-to'];

/** What a message names in its head or its front matter. */
export function namedIn(file: MarkupFile): MessageNames {
  return file.front === null ? namedInHead(file) : namedInFront(file);
}

function namedInHead({ source, elements }: MarkupFile): MessageNames {
  const metas = elements.flatMap((element) => {
    const name = element.tag === 'meta' ? attribute(element, 'name') : null;
    const content = element.attributes.get('content');
    if (name === null || content === undefined) return [];
    return [{ name: name.toLowerCase(), text: content.value, span: valueSpan(source, content) }];
  });
  const all = (name: string): WrittenText[] => metas.filter((meta) => meta.name === name);
  const links = elements.flatMap((element) => {
    const href = isStyleLink(element) ? element.attributes.get('href') : undefined;
    return href === undefined ? [] : [{ text: href.value, span: valueSpan(source, href) }];
  });
  return {
    data: all('data'),
    editions: all('editions')[0] ?? null,
    editionName: all('edition-name')[0] ?? null,
    frame: null,
    files: [...links, ...all('attachment')],
    said: new Map(repeated.map((name) => [name, all(name).flatMap(({ text }) => wordsOf(name, text))])),
  };
}

function namedInFront({ front }: MarkupFile): MessageNames {
  const tree = front?.tree ?? null;
  const all = (key: string): readonly WrittenText[] => textsOf(entryAt(tree, [key])?.value);
  return {
    data: all('data'),
    editions: all('editions')[0] ?? null,
    editionName: all('edition-name')[0] ?? null,
    frame: all('frame')[0]?.text ?? null,
    files: all('attachment'),
    said: new Map(repeated.map((name) => [name, all(name).flatMap(({ text }) => wordsOf(name, text))])),
  };
}

function wordsOf(name: string, text: string): string[] {
  const words = name === 'keywords' ? text.split(',') : [text];
  return words.map((word) => word.trim()).filter((word) => word !== '' && !/[<\n\uFDD0]/.test(word));
}

/** The entries of the front matter, with their places. */
export function frontEntries({ front }: MarkupFile): ReturnType<typeof entriesOf> {
  return entriesOf(front?.tree);
}
