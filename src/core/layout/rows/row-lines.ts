import { takeBasis } from '../used/flex-basis.js';
import { layoutAdvice } from '../../findings/wording/layout.js';
import { fourValues, outerLength, shortPixels } from '../boxes/box-style.js';
import { isPainted, type Box, type RowBox } from '../boxes/boxes.js';
import { inState, inStates, type BoxInState } from '../boxes/box-in-state.js';
import { forStates, hideWithBox, narrowestWidth, type Emitted, type Room } from '../content/room.js';
import { element, style, wordOnly, type OutElement, type OutNode } from '../print/output.js';
import { problemIn, reportProblems, type LayoutProblem } from '../content/problems.js';
import { cellAlignment, modeIn } from './row-plan.js';
import { estimatedWidth } from './text-width.js';
import { fullText, physicalAlign, textStyleOf } from '../print/text-style.js';

/**
 * Emits items that break into lines as words do. The gap between two of them is one space that is as wide as the gap, by
 * `word-spacing` at a font size of 0: at the end of a line it goes, as a gap does. The gap between lines is space below
 * each item, which the space below the whole list makes up for. The `word` engine gets a table.
 */
export function emitLines(box: RowBox, room: Room): Emitted {
  const items = box.children;
  const problems = lineProblems(box, items, room);
  reportProblems(problems, room);
  if (problems.length > 0) return { nodes: [], lines: null };
  const lines = forStates(room, (state) =>
    style([
      ['font-size', '0'],
      ['line-height', '0'],
      ['text-align', alignment(inState(box, state))],
      ['word-spacing', shortPixels(inState(box, state).takeLength('column-gap'))],
    ]),
  );
  const gap = Math.round(inState(box, 0).takeLength('column-gap'));
  const gapForWord = gap > 0 ? `<td width="${gap}" style="width:${gap}px;padding:0;font-size:0">&nbsp;</td>` : '';
  const nodes = items.flatMap((item, index): OutNode[] => {
    const shown = emitLineItem(item, box, room);
    if (index === 0) return [shown];
    return [wordOnly(`</td>${gapForWord}<td style="padding:0">`), { kind: 'text', value: ' ' }, shown];
  });
  const align = alignment(inState(box, 0));
  const opening = `<table role="presentation" border="0" cellpadding="0" cellspacing="0"${align === 'left' ? '' : ` align="${align}"`}><tr><td style="padding:0">`;
  return { nodes: [wordOnly(opening), ...nodes, wordOnly('</td></tr></table>')], lines };
}

/** How far the last line's space reaches below the list, in px: whatever stands below takes it off its own space. */
export function lineOverhang(box: BoxInState): number {
  if (box.itself.kind !== 'row' || modeIn(box) !== 'side-by-side') return 0;
  return box.style.take('flex-wrap') === 'wrap' ? box.takeLength('row-gap') : 0;
}

function emitLineItem(item: Box, box: RowBox, room: Room): OutElement {
  const cell = room.make.cell(item, room, { extra: [], isFlexItem: true });
  const styles = inStates(item).map((shown, state) => {
    const row = shown.of(box);
    const own = new Map([
      ['display', 'inline-block'],
      ['margin', fourValues([0, 0, row.takeLength('row-gap'), 0])],
      ...itemWidth(shown),
      ['vertical-align', cellAlignment(box, shown)],
      ['word-spacing', 'normal'],
      ...(cell.styles[state] ?? []),
      ...fullText(textStyleOf(shown.style)),
      // The lines around it say where it stands, and not where its own text does.
      ...(alignment(row) === 'left' ? [] : [['text-align', ownAlignment(shown)] as const]),
    ]);
    if (own.get('padding') === '0') own.delete('padding');
    return own;
  });
  const [only, ...others] = cell.children;
  if (only?.kind === 'element' && only.tag === 'a' && others.length === 0)
    return hideWithBox(asInlineBlock(only, styles), item);
  return hideWithBox(element('div', {}, styles, cell.children), item);
}

/** The width that an item says: of its border box, as all emitted boxes measure. */
function itemWidth(item: BoxInState): [string, string][] {
  const basis = takeBasis(item.style);
  if (item.itself.kind === 'picture' || basis.quantity === null) return [];
  return [
    ['width', outerLength(item, basis.text)],
    ['box-sizing', 'border-box'],
  ];
}

/** A link that is alone in its item is the item, and as wide as that says. */
function asInlineBlock(link: OutElement, styles: OutElement['styles']): OutElement {
  return {
    ...link,
    styles: styles.map((own, state) => {
      const width = ['width', 'box-sizing'].flatMap((name) =>
        own.has('width') ? [[name, own.get(name) ?? ''] as const] : [],
      );
      return new Map([...own, ...(link.styles[state] ?? []), ...width, ['display', 'inline-block'] as const]);
    }),
  };
}

function alignment(box: BoxInState<RowBox>): string {
  const own = box.style;
  const value = own.take('justify-content').replace('flex-', '');
  const logical = /^(?:normal|stretch)$/.test(value) ? 'start' : value;
  return physicalAlign(logical, own.take('direction'));
}

function ownAlignment(item: BoxInState): string {
  const own = item.style;
  return physicalAlign(own.take('text-align'), own.take('direction'));
}

/** Whether an item is painted, by itself or in the box that its margins are. */
function showsBox(item: Box): boolean {
  return isPainted(item) || (item.kind === 'flow' && item.isFrame === true && item.children.some(isPainted));
}

function lineProblems(box: RowBox, items: readonly Box[], room: Room): LayoutProblem[] {
  return inStates(box).flatMap((row): LayoutProblem[] => {
    if (row.isHidden) return [];
    const problems: LayoutProblem[] = [];
    const { style: own } = row;
    if (modeIn(row) === 'stacked') problems.push(problemIn(row, 'flex-direction', layoutAdvice.wrapNoStacking));
    if (/space-/.test(own.take('justify-content')))
      problems.push(problemIn(row, 'justify-content', layoutAdvice.wrapSides));
    const isStretched = /^(?:normal|stretch)$/.test(own.take('align-items'));
    for (const item of items.map((one) => row.of(one))) {
      const isSized = takeBasis(item.style).quantity !== null;
      if (isStretched && isSized && items.length > 1 && showsBox(item.itself))
        problems.push(problemIn(row, 'flex-wrap', layoutAdvice.equalLines));
      for (const side of ['margin-top', 'margin-right', 'margin-bottom', 'margin-left'])
        if (item.style.take(side) !== '0px') problems.push(problemIn(item, side, layoutAdvice.rowGap));
      // What may not shrink runs over its line, where a cell breaks its text.
      const isFirm = !isSized && Number(item.style.take('flex-shrink')) === 0;
      if (isFirm && estimatedWidth(item, room) > narrowestWidth(room, row.state))
        problems.push(problemIn(item, 'flex-shrink', layoutAdvice.widthOfLongText));
      if (item.style.take('order') !== '0') problems.push(problemIn(item, 'order', layoutAdvice.itemOrder));
    }
    return problems;
  });
}
