import type { CssNode } from '../syntax/css-tree.js';
import type { IndexedElement } from './element-index.js';
import { decode, InvalidSelector } from './part.js';
import { caseInsensitiveAttributes } from './vocabulary.js';
import { FILLER } from '../../html/mask.js';
import { holdsFiller, mayBe, type SelectorSetting } from '../syntax/tagged-values.js';

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

/**
 * Compiles `[name operator "value" flag]` (Selectors Level 4, 6). Throws where the flag is none.
 * @param isMay whether an element matches that only what a platform fills in may make match
 */
export function compileAttribute(
  node: AttributeNode,
  setting: SelectorSetting,
  isMay: boolean,
): (element: IndexedElement) => boolean {
  const name = decode(node.name.name.replace(/^(?:\*?\|)/, ''));
  const lower = name.toLowerCase();
  const wanted =
    node.value === null ? '' : node.value.type === 'Identifier' ? decode(node.value.name) : node.value.value;
  const test = node.matcher === null ? null : tests.get(node.matcher);
  const flag = node.flags?.toLowerCase();
  if (flag !== undefined && flag !== 'i' && flag !== 's') throw new InvalidSelector();
  const holds = (written: string, isHtml: boolean): boolean => {
    if (test === null) return true;
    if (test === undefined) return false;
    const folds = flag === 'i' || (flag !== 's' && isHtml && caseInsensitiveAttributes.has(lower));
    return folds ? test(asciiLower(written), asciiLower(wanted)) : test(written, wanted);
  };
  return ({ node: element }) => {
    const isHtml = element.namespace === 'html';
    const value = element.attributes.get(isHtml ? lower : name)?.value;
    if (value === undefined) return false;
    const masked = setting.masked(value);
    return holds(masked, isHtml) || (isMay && mayHold(node.matcher ?? '', masked, wanted));
  };
}

/** Whether an attribute that holds a template tag may come to pass a test that its text as it stands does not. */
function mayHold(matcher: string, masked: string, wanted: string): boolean {
  if (!holdsFiller(masked)) return false;
  const [first = ''] = masked.split(FILLER);
  const last = masked.split(FILLER).at(-1) ?? '';
  const begin = wanted.split(FILLER)[0] ?? '';
  switch (matcher) {
    case '=':
      return mayBe(masked, wanted);
    case '^=':
    case '|=':
      return first.startsWith(begin) || begin.startsWith(first);
    case '$=':
      return wanted.endsWith(last) || last.endsWith(wanted);
    default:
      return true;
  }
}

function asciiLower(text: string): string {
  return text.replace(/[A-Z]/g, (letter) => letter.toLowerCase());
}
