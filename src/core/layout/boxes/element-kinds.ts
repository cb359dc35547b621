import { splitAtSentinels } from '../../html/tags.js';
import type { TreeNode } from '../../html/tree.js';

export const nativeTags: ReadonlySet<string> = new Set(['ul', 'ol', 'menu', 'dl', 'table', 'pre']);

/** Whether elements of a kind are emitted as they are: lists, tables, preformatted text. */
export function isNativeTag(tag: string): boolean {
  return nativeTags.has(tag);
}

/** Elements within a line, which stay what they are when they are shown as blocks. */
export const phrasingTags: ReadonlySet<string> = new Set(
  'a abbr b cite code em i q s small span strong sub sup u'.split(' '),
);

/** Whether browsers show elements of a kind in a line, unless told otherwise. */
export function isPhrase(tag: string): boolean {
  return phrasingTags.has(tag) || !blockTags.has(tag);
}

const blockTags: ReadonlySet<string> = new Set(
  'address article aside blockquote center dd div dl dt fieldset figcaption figure footer form h1 h2 h3 h4 h5 h6 header hr main nav ol p pre section table ul li'.split(
    ' ',
  ),
);

export function isVisibleNode(node: TreeNode): boolean {
  return node.kind !== 'text' || splitAtSentinels(node.value).length > 1 || /[^\t\n\f\r ]/.test(node.value);
}
