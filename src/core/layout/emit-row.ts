import { finding } from '../finding.js';
import { isHidden, isPainted, lengthIn, styleIn, type Box, type RowBox } from './boxes.js';
import { desktopWidth, type EmitContext, type Emitted, type Surroundings } from './emit.js';
import { emitCellsRow } from './emit-row-cells.js';
import { emitWrappingRow } from './emit-row-wrap.js';
import { emitFlow } from './emit-flow.js';
import { shownSize } from './emit-picture.js';
import type { OutNode } from './output.js';
import { attribute } from '../html/tree.js';
import { gapIn, rowWidths, type ColumnWidth, type WidthProblem } from './row-widths.js';

/** How a row stands in a state. */
export type RowMode = 'side-by-side' | 'stacked' | 'hidden';

/** A row, read: what each of its emission patterns needs. */
export interface RowPlan {
  readonly box: RowBox;
  readonly items: readonly Box[];
  readonly modes: readonly RowMode[];
  /** Column widths in each state in which the row stands side by side; null where it does not. */
  readonly widths: readonly (readonly ColumnWidth[] | null)[];
  readonly columnGap: readonly number[];
  readonly rowGap: readonly number[];
}

/** Emits the columns of a flex container, by the pattern that fits it. */
export function emitColumns(box: RowBox, context: EmitContext, around: Surroundings): Emitted {
  const items = box.children.filter((child) => child.styles.some((_, state) => !isHidden(child, state)));
  const modes = box.styles.map((_, state) => modeIn(box, state));
  if (modes.every((mode) => mode !== 'side-by-side'))
    return { nodes: emitColumnFlow(box, context, around), lines: null };
  const plan = planRow(box, items, modes, context, around);
  if (plan === null) return { nodes: [], lines: null };
  return wrapsByItself(plan)
    ? emitWrappingRow(plan, context, around)
    : { nodes: emitCellsRow(plan, context, around), lines: null };
}

function modeIn(box: RowBox, state: number): RowMode {
  const style = styleIn(box, state);
  const display = style.get('display');
  if (display === 'none') return 'hidden';
  return display === 'flex' && style.get('flex-direction').startsWith('row') ? 'side-by-side' : 'stacked';
}

function planRow(
  box: RowBox,
  items: readonly Box[],
  modes: readonly RowMode[],
  context: EmitContext,
  around: Surroundings,
): RowPlan | null {
  const columnGap = box.styles.map((_, state) => gapIn(box, state, 'column-gap'));
  // Stacked by display: block, items have no gap.
  const rowGap = box.styles.map((style, state) => (style.get('display') === 'flex' ? gapIn(box, state, 'row-gap') : 0));
  const problems = findProblems(box, items, modes);
  const intrinsic = (item: Box): number | null => intrinsicWidth(item, context, around);
  const widths = modes.map((mode, state) => {
    if (mode !== 'side-by-side') return null;
    const result = rowWidths(items, state, columnGap[state] ?? 0, intrinsic);
    if (result.problem !== null) problems.push(result.problem);
    return result.columns;
  });
  for (const problem of unique(problems)) reportProblem(problem, context);
  if (problems.length > 0 || !fits(box, widths[0] ?? [], items.length, columnGap[0] ?? 0, context, around)) return null;
  return { box, items, modes, widths, columnGap, rowGap };
}

function intrinsicWidth(item: Box, context: EmitContext, around: Surroundings): number | null {
  if (item.kind !== 'picture') return null;
  return (
    shownSize(item, context.pictureSize(attribute(item.element.node, 'src') ?? ''), desktopWidth(around))?.width ?? null
  );
}

function unique(problems: readonly WidthProblem[]): WidthProblem[] {
  return problems.filter(
    (problem, index) =>
      problems.findIndex((other) => other.box === problem.box && other.property === problem.property) === index,
  );
}

/** What rows of tables cannot do. */
function findProblems(box: RowBox, items: readonly Box[], modes: readonly RowMode[]): WidthProblem[] {
  const problems: WidthProblem[] = [];
  modes.forEach((mode, state) => {
    const style = styleIn(box, state);
    const say = (property: string, advice: string): number =>
      problems.push({ box, property, value: style.get(property), advice });
    if (mode === 'side-by-side' && style.get('flex-direction') === 'row-reverse')
      say(
        'flex-direction',
        'Write the columns in the order in which they stand on the desktop, with flex-direction: row.',
      );
    if (mode === 'stacked' && style.get('flex-direction') === 'column-reverse')
      say('flex-direction', 'Use flex-direction: column; the columns then stack in the order of the source.');
    if (mode === 'side-by-side' && style.get('flex-wrap') !== 'nowrap')
      say(
        'flex-wrap',
        'Leave it out, and stack the columns with a condition: @media (max-width: 600px) { … flex-direction: column }.',
      );
    if (mode === 'side-by-side' && !/^(?:normal|flex-start|start|left)$/.test(style.get('justify-content')))
      say('justify-content', 'Let a column grow (flex: 1) so that the row is full, and align the text in it.');
    if (mode === 'stacked' && style.get('display') === 'flex' && !/^(?:normal|stretch)$/.test(style.get('align-items')))
      say(
        'align-items',
        'Write align-items: stretch beside flex-direction: column: stacked columns are as wide as the row.',
      );
    if (modes[0] !== 'side-by-side' && mode === 'side-by-side')
      say('flex-direction', 'Let the row stand side by side on wide screens, and stack on narrow ones.');
    for (const item of items) problems.push(...itemProblems(item, state, mode));
  });
  return problems;
}

function itemProblems(item: Box, state: number, mode: RowMode): WidthProblem[] {
  const style = styleIn(item, state);
  const problems: WidthProblem[] = [];
  for (const side of ['margin-top', 'margin-right', 'margin-bottom', 'margin-left']) {
    if (style.get(side) === 'auto' || lengthIn(item, state, side) !== 0)
      problems.push({
        box: item,
        property: side,
        value: style.get(side),
        advice: 'Use gap on the row, or padding inside the column.',
      });
  }
  if (style.get('order') !== '0')
    problems.push({
      box: item,
      property: 'order',
      value: style.get('order'),
      advice: 'Write the columns in the order in which they are shown.',
    });
  const basis = style.get('flex-basis');
  if (
    mode === 'stacked' &&
    !/^(?:auto|0px|0%|content)$/.test(basis) &&
    styleIn(item, state).get('display') !== 'none'
  ) {
    problems.push({
      box: item,
      property: 'flex-basis',
      value: basis,
      advice: 'Once stacked it would be a height: reset it there with flex: none, and width: 100%.',
    });
  }
  if (isHidden(item, state))
    problems.push({
      box: item,
      property: 'display',
      value: 'none',
      advice: 'Hide what stands in the column instead of the column.',
    });
  return problems;
}

function reportProblem(problem: WidthProblem, context: EmitContext): void {
  const span = problem.box.element?.node.startTag ?? null;
  const place = span === null ? null : { source: context.doc.source, span };
  const { property, value, advice } = problem;
  context.report(
    finding('css-unsupported', place, { property, value, selector: problem.box.element?.node.tag ?? 'text', advice }),
  );
}

function fits(
  box: RowBox,
  columns: readonly ColumnWidth[],
  count: number,
  gap: number,
  context: EmitContext,
  around: Surroundings,
): boolean {
  const shares = columns.reduce(
    (sum, column) => sum + (column.kind === 'percent' || column.kind === 'fixed' ? column.share : 0),
    0,
  );
  const room = desktopWidth(around);
  const fixed =
    columns.reduce(
      (sum, column) => sum + (column.kind === 'percent' || column.kind === 'fixed' ? column.pixels : 0),
      0,
    ) +
    gap * (count - 1);
  const need = shares * room + fixed;
  const span = box.element?.node.startTag ?? null;
  if (need <= room + 0.01 || span === null) return true;
  context.report(
    finding(
      'row-too-wide',
      { source: context.doc.source, span },
      { need: `${Math.round(need)}px`, room: `${Math.round(room)}px` },
    ),
  );
  return false;
}

/**
 * Columns that wrap by themselves where media queries are missing: only for rows that stack at some width and never
 * stand side by side below it, whose columns show no paint that would have to be equally tall.
 */
function wrapsByItself(plan: RowPlan): boolean {
  const forced = styleIn(plan.box, 0).get('--row').trim();
  const firstStacked = plan.modes.indexOf('stacked');
  const stacks =
    firstStacked > 0 &&
    plan.modes.slice(firstStacked).every((mode) => mode === 'stacked') &&
    plan.modes.slice(0, firstStacked).every((mode) => mode === 'side-by-side');
  if (!stacks || forced === 'cells') return false;
  const stretched = plan.modes.some(
    (mode, state) =>
      mode === 'side-by-side' && /^(?:normal|stretch)$/.test(styleIn(plan.box, state).get('align-items')),
  );
  return forced === 'wrap' || !stretched || !plan.items.some(isPainted);
}

/** A flex container that is a column in every state: blocks with gaps between them, whose margins do not collapse. */
function emitColumnFlow(box: RowBox, context: EmitContext, around: Surroundings): OutNode[] {
  const [first, ...rest] = box.children;
  if (first === undefined) return [];
  const problem = rest.length > 0 && box.styles.some((_, state) => gapIn(box, state, 'row-gap') !== 0);
  if (problem)
    reportProblem(
      {
        box,
        property: 'row-gap',
        value: styleIn(box, 0).get('row-gap'),
        advice: 'In a column that never becomes a row, use margins between blocks instead of flex and gap.',
      },
      context,
    );
  return emitFlow(box.children, box, context, around, () => ({ top: true, bottom: true })).nodes;
}

/** The vertical alignment of cells that does what `align-items` does. */
export function cellAlignment(box: RowBox, item: Box, state: number): string {
  const own = styleIn(item, state).get('align-self');
  const value = own === 'auto' ? styleIn(box, state).get('align-items') : own;
  const map: ReadonlyMap<string, string> = new Map([
    ['center', 'middle'],
    ['end', 'bottom'],
    ['flex-end', 'bottom'],
    ['baseline', 'baseline'],
  ]);
  return map.get(value) ?? 'top';
}
