import { hidesAnywhere, isPainted, type RowBox } from '../boxes/boxes.js';
import { inState, inStates } from '../boxes/box-in-state.js';
import type { Emitted, Room } from '../content/room.js';
import { emitColumnFlow } from './column.js';
import { emitLines } from './row-lines.js';
import { emitPackedRow, isPacked } from './row-packed.js';
import { emitCellsRow } from './row-cells.js';
import { emitWrappingRow } from './row-wrap.js';
import { modeIn, planRow, restPlaces, type RowPlan } from './row-plan.js';

/** Emits the columns of a flex container, by the pattern that fits it. */
export function emitColumns(box: RowBox, room: Room): Emitted {
  const modes = inStates(box).map(modeIn);
  if (modes.every((mode) => mode !== 'side-by-side')) return emitColumnFlow(box, room);
  if (wrapsLines(box)) return emitLines(box, room);
  if (isPacked(box)) return { nodes: emitPackedRow(box, room), lines: null };
  const plan = planRow(box, room);
  if (plan === null) return { nodes: [], lines: null };
  return wrapsByItself(plan) ? emitWrappingRow(plan, room) : { nodes: emitCellsRow(plan, room), lines: null };
}

/** Items of their own width that break into lines as words do. */
function wrapsLines(box: RowBox): boolean {
  return (
    inStates(box).every((own) => modeIn(own) !== 'side-by-side' || own.style.take('flex-wrap') === 'wrap') &&
    box.children.every((item) => item.styles.every((style) => Number(style.take('flex-grow')) === 0))
  );
}

/**
 * Columns that wrap by themselves where media queries are missing: only for rows that stack at some width and never
 * stand side by side below it, whose columns show no paint that would have to be equally tall.
 */
function wrapsByItself(plan: RowPlan): boolean {
  const forced = plan.box.styles[0]?.take('--row').trim();
  const firstStacked = plan.modes.indexOf('stacked');
  const stacks =
    firstStacked > 0 &&
    plan.modes.slice(firstStacked).every((mode) => mode === 'stacked') &&
    plan.modes.slice(0, firstStacked).every((mode) => mode === 'side-by-side');
  const inOrder = !plan.reversed && plan.box.styles.every((style) => style.take('flex-direction') !== 'column-reverse');
  const complete = !plan.items.some(hidesAnywhere);
  const isFull = plan.widths[0]?.some(({ kind }) => kind === 'weight' || kind === 'rest') === true;
  const atStart = isFull || restPlaces(inState(plan.box, 0)).every((place) => place === plan.items.length);
  if (!stacks || !inOrder || !complete || !atStart || forced === 'cells') return false;
  const stretched = plan.modes.some(
    (mode, state) =>
      mode === 'side-by-side' && /^(?:normal|stretch)$/.test(plan.box.styles[state]?.take('align-items') ?? ''),
  );
  return forced === 'wrap' || !stretched || !plan.items.some(isPainted);
}
