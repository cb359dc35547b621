import { layoutAdvice } from '../../findings/wording/layout.js';
import type { TreeNode } from '../../html/tree.js';
import type { Box } from '../boxes/boxes.js';
import type { BoxInState } from '../boxes/box-in-state.js';
import { refusal } from './refusal.js';
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
export function problemIn(box: BoxInState, property: string, advice: string): LayoutProblem {
  return { box: box.itself, property, value: box.style.get(property), advice };
}

/** An item whose content is wider than its column on narrow windows: by its own width, or by lines that do not break. */
export function pushesColumn(item: BoxInState): LayoutProblem {
  const isSized = item.style.pixels('width') !== null;
  return isSized
    ? problemIn(item, 'width', layoutAdvice.widerThanColumn)
    : problemIn(item, 'white-space', layoutAdvice.keepsInColumn);
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
  if (box.kind === 'text') return box.content.find((node) => node.kind !== 'comment') ?? null;
  const [first] = 'children' in box ? box.children : [];
  return first === undefined ? null : nodeOf(first);
}

function reportProblem({ box, property, value, advice }: LayoutProblem, context: EmitContext): void {
  const declared = box.styles
    .filter((style) => style.get(property) === value)
    .map((style) => style.declaredBy(property))
    .find((candidate) => candidate !== null);
  const what = { declared: declared ?? null, property, value, node: nodeOf(box) };
  context.report(refusal({ ...what, message: context.doc.source, advice }));
}
