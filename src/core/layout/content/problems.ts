import { finding } from '../../findings/finding.js';
import type { TreeNode } from '../../html/tree.js';
import { styleIn, type Box } from '../boxes/boxes.js';
import type { EmitContext } from './room.js';

/** Something that tables cannot do, found in a box. */
export interface LayoutProblem {
  readonly box: Box;
  readonly property: string;
  readonly value: string;
  /** What to write instead. */
  readonly advice: string;
}

/** Collects what a box says in a state that tables cannot do. */
export function problemIn(box: Box, state: number, property: string, advice: string): LayoutProblem {
  return { box, property, value: styleIn(box, state).get(property), advice };
}

/** Reports each problem once, at the declaration that it comes from, else at the element. */
export function reportProblems(problems: readonly LayoutProblem[], context: EmitContext): void {
  const distinct = problems.filter(
    (problem, index) =>
      problems.findIndex((other) => other.box === problem.box && other.property === problem.property) === index,
  );
  for (const problem of distinct) reportProblem(problem, context);
}

/** What a box was made from: its element, or the text or link that a box was put around. */
function nodeOf(box: Box): TreeNode | null {
  if (box.element !== null) return box.element.node;
  return box.kind === 'text' ? (box.content.find((node) => node.kind !== 'comment') ?? null) : null;
}

function reportProblem({ box, property, value, advice }: LayoutProblem, context: EmitContext): void {
  const declared = box.styles
    .filter((style) => style.get(property) === value)
    .map((style) => style.declaredBy(property))
    .find((candidate) => candidate !== null);
  const node = nodeOf(box);
  const span = node === null ? null : node.kind === 'element' ? node.startTag : node.span;
  const place = declared?.declaration.place ?? (span === null ? null : { source: context.doc.source, span });
  const what = node?.kind === 'element' ? `<${node.tag}>` : 'text';
  const selector = declared === undefined ? what : declared.selector === '' ? `style of ${what}` : declared.selector;
  const shown = declared?.declaration ?? { property, value };
  context.report(finding('css-unsupported', place, { property: shown.property, value: shown.value, selector, advice }));
}
