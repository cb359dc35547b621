import type { Place } from '../findings/finding.js';
import type { SourceText } from '../text/source-text.js';
import { type Span, spanAt } from '../text/span.js';
import type { YamlNode } from './yaml-tree.js';

/** Keys, and places in lists, that lead to a value. */
export type YamlPath = readonly (string | number)[];

/** Where the value at a path stands. */
export type PlaceOf = (path: YamlPath) => Place;

/** Where the values of a YAML text stand, by its tree. */
export function placesIn(source: SourceText, tree: YamlNode | null): PlaceOf {
  return (path) => ({ source, span: spanAtPath(tree, path, 'value') });
}

/** The span of a key or of its value; of the nearest enclosing one where the path leads nowhere. */
export function spanAtPath(tree: YamlNode | null, path: YamlPath, want: 'key' | 'value'): Span {
  let node = tree;
  let key: Span | null = null;
  for (const step of path) {
    if (node?.kind === 'map') {
      const entry = node.entries.find((one) => one.key === String(step));
      if (entry === undefined) break;
      key = entry.keySpan;
      node = entry.value;
    } else if (typeof step === 'number' && node?.kind === 'list') node = node.items[step] ?? null;
    else break;
  }
  return (want === 'key' ? null : node?.span) ?? key ?? spanAt(0, 0);
}
