import type { Declared } from '../../css/cascade/cascade.js';
import { finding, type Finding, type Place } from '../../findings/finding.js';
import type { TreeNode } from '../../html/tree.js';
import { resolveOrigin } from '../../text/mapped-text.js';
import type { SourceText } from '../../text/source-text.js';

/** Something that an author asks for and that tables cannot do. */
export interface Refusal {
  /** The declaration that asks for it; null where it comes from a browser or an attribute. */
  readonly declared: Declared | null;
  readonly property: string;
  readonly value: string;
  /** The element, or the text, that it hits; null for none. */
  readonly node: TreeNode | null;
  /** The message in which that stands. */
  readonly message: SourceText;
  /** What to write instead. */
  readonly advice: string;
}

/** Says that tables cannot do something: at its declaration, with the element that it hits and its condition. */
export function refusal({ declared, property, value, node, message, advice }: Refusal): Finding {
  const span = node === null ? null : node.kind === 'element' ? node.startTag : node.span;
  const hit: Place | null = span === null ? null : { source: message, span };
  // What attributes and browsers say stands in no style sheet.
  const isWritten = declared?.origin === 'author' || declared?.origin === 'style-attribute';
  const place = isWritten ? declared.declaration.place : hit;
  return finding('css-unsupported', place, {
    property: declared?.declaration.property ?? property,
    value: declared?.declaration.value ?? value,
    element: nameOf(node),
    where: whereOf(hit, place),
    condition: (declared?.conditions ?? []).map(({ kind, text }) => `, under @${kind} ${text.trim()}`).join(''),
    advice,
  });
}

/** An element as people speak of it: its tag, with its classes or its id. */
function nameOf(node: TreeNode | null): string {
  if (node?.kind !== 'element') return 'text';
  const said = (['id', 'class'] as const).flatMap((name) => {
    const value = node.attributes.get(name)?.value.trim().replace(/\s+/g, ' ') ?? '';
    return value === '' ? [] : [` ${name}="${value}"`];
  });
  return `<${node.tag}${said.join('')}>`;
}

/** The line of what is hit; with its file where that is another than the declaration's. */
function whereOf(hit: Place | null, place: Place | null): string {
  if (hit === null) return 'this message';
  const { origin } = resolveOrigin(hit);
  const line = `line ${origin.source.lineColumn(origin.span.start).line}`;
  const declaredIn = place === null ? null : resolveOrigin(place).origin.source.name;
  return declaredIn === null || declaredIn === origin.source.name ? line : `${origin.source.name}, ${line}`;
}
