import type { CssNode } from './css-tree.js';
import type { IndexedElement } from './element-index.js';
import { caseInsensitiveAttributes } from './selector-vocabulary.js';

type AttributeNode = Extract<CssNode, { type: 'AttributeSelector' }>;
type Test = (value: string, wanted: string) => boolean;

const tests: ReadonlyMap<string, Test> = new Map<string, Test>([
  ['=', (value, wanted) => value === wanted],
  ['~=', (value, wanted) => wanted !== '' && !/\s/.test(wanted) && value.split(/[ \t\n\f\r]+/).includes(wanted)],
  ['|=', (value, wanted) => value === wanted || value.startsWith(`${wanted}-`)],
  ['^=', (value, wanted) => wanted !== '' && value.startsWith(wanted)],
  ['$=', (value, wanted) => wanted !== '' && value.endsWith(wanted)],
  ['*=', (value, wanted) => wanted !== '' && value.includes(wanted)],
]);

/** Compiles `[name operator "value" flag]` (Selectors Level 4, 6). */
export function compileAttribute(node: AttributeNode): (element: IndexedElement) => boolean {
  const name = node.name.name.replace(/^(?:\*?\|)/, '').replace(/\\(.)/g, '$1');
  const lower = name.toLowerCase();
  const wanted =
    node.value === null
      ? ''
      : node.value.type === 'Identifier'
        ? node.value.name.replace(/\\(.)/g, '$1')
        : node.value.value;
  const test = node.matcher === null ? null : tests.get(node.matcher);
  const flag = node.flags?.toLowerCase();
  return ({ node: element }) => {
    const value = element.attributes.get(element.namespace === 'html' ? lower : name)?.value;
    if (value === undefined) return false;
    if (test === null) return true;
    if (test === undefined) return false;
    const folds =
      flag === 'i' || (flag !== 's' && element.namespace === 'html' && caseInsensitiveAttributes.has(lower));
    return folds ? test(asciiLower(value), asciiLower(wanted)) : test(value, wanted);
  };
}

function asciiLower(text: string): string {
  return text.replace(/[A-Z]/g, (letter) => letter.toLowerCase());
}
