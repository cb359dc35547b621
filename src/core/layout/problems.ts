import { finding } from '../finding.js';
import { styleIn, type Box } from './boxes.js';
import type { EmitContext } from './emit.js';

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

function reportProblem({ box, property, value, advice }: LayoutProblem, context: EmitContext): void {
  const declared = box.styles
    .filter((style) => style.get(property) === value)
    .map((style) => style.declaredBy(property))
    .find((candidate) => candidate !== null);
  const span = box.element?.node.startTag ?? null;
  const place = declared?.declaration.place ?? (span === null ? null : { source: context.doc.source, span });
  const tag = box.element?.node.tag ?? 'text';
  const selector = declared === undefined || declared.selector === '' ? `<${tag}>` : declared.selector;
  const shown = declared?.declaration ?? { property, value };
  context.report(finding('css-unsupported', place, { property: shown.property, value: shown.value, selector, advice }));
}
