import type { TagDelimiters } from '../html/tags.js';
import type { PackageShape } from '../dialects/dialect.js';
import { templateName, type MessageFacts } from './manifest.js';
import type { PackageFile } from './package-file.js';
import type { ShapeName } from '../dialects/package-shapes.js';
import { splitPage } from './split-page.js';

/** What packages are made of. */
export interface PackageParts {
  readonly html: string;
  readonly text: string;
  /** Pictures and attachments, by their paths. */
  readonly carried: readonly PackageFile[];
  /** The delimiters of the merge tags in the HTML. */
  readonly delimiters: readonly TagDelimiters[];
}

/**
 * The files that a message is imported as, in the shape that its platform takes; manifest and card come on top. A mail
 * (`eml`) is no business of this function: its one file is made of the same parts elsewhere.
 */
export function packageFiles(
  shape: PackageShape,
  facts: Pick<MessageFacts, 'message' | 'edition'>,
  { html, text, carried, delimiters }: PackageParts,
): PackageFile[] {
  const name = templateName(facts);
  const file = (path: string, content: string): PackageFile => ({ path, bytes: new TextEncoder().encode(content) });
  const named = (key: 'html' | 'text' | 'css'): string =>
    (shape[key] ?? usualNames[shape.shape][key]).replaceAll('{message}', name);
  const textFile = file(named('text'), text);
  if (shape.shape !== 'split') return [...carried, textFile, file(named('html'), html)];
  const { css, body } = splitPage(html, delimiters);
  return [...carried, textFile, file(named('css'), css), file(named('html'), body)];
}

const page = { html: 'index.html', text: 'index.txt', css: '' };

/** What files are called where a dialect gives them no names. */
const usualNames: Readonly<Record<ShapeName, Readonly<Record<'html' | 'text' | 'css', string>>>> = {
  zip: page,
  folder: page,
  split: { html: 'body.html', text: 'index.txt', css: 'styles.css' },
  single: { html: '{message}.html', text: '{message}.txt', css: '' },
  eml: page,
};
