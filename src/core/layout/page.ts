import { type IndexedElement } from '../css/selectors/element-index.js';
import { type Box } from './boxes/boxes.js';
import { readBox } from './boxes/read-box.js';
import { fourValues } from './boxes/box-style.js';
import { lengthIn, takeLength, styleIn } from './boxes/boxes.js';
import { sides } from '../css/values/properties.js';
import { DESKTOP_VIEWPORT, forStates, type EmitContext, type Room } from './content/room.js';
import { emitBoxTable, emitCell } from './cells/cell.js';
import { emitPhrase } from './content/inline.js';
import { emitFlow } from './cells/flow.js';
import { closedSides, collapseMargins } from './boxes/margins.js';
import { spills } from './content/spill.js';
import { element, layoutTable, style, tableRow, type OutElement } from './print/output.js';
import { fullText } from './print/text-style.js';

export interface Page {
  /** The body's own styles; its content is the table. */
  readonly body: OutElement;
  readonly table: OutElement;
}

/** The body's margin and padding become the padding of one cell as wide as the window. */
export function emitPage(body: IndexedElement, width: number, context: EmitContext): Page {
  const box = readBox(body, context);
  const bounded = childrenOf(box).some(
    (child) => styleIn(child, 0).pixels('max-width') !== null || styleIn(child, 0).pixels('width') !== null,
  );
  const available = (viewport: number): number => (viewport === DESKTOP_VIEWPORT && !bounded ? width : viewport);
  const room: Room = {
    ...context,
    make: { cell: emitCell, table: emitBoxTable, phrase: emitPhrase },
    text: null,
    widthAt: (viewport, state) => available(viewport) - sideSpace(box, state, 'left') - sideSpace(box, state, 'right'),
  };
  const content = emitFlow([...childrenOf(box)], box, room, (state) => closedSides(box, state));
  const spacings = forStates(context, (state) =>
    collapseMargins([box], state, { top: true, bottom: true }, () => true),
  );
  const background = forStates(context, (state) => box.styles[state]?.take('background-color') ?? 'transparent');
  const painted = background.some((color) => color !== 'transparent');
  const cellStyles = forStates(context, (state) => {
    const top = (spacings[state]?.above.get(box) ?? 0) + spaceInside(box, state, 'top') + (content.before[state] ?? 0);
    const bottom = (spacings[state]?.below ?? 0) + spaceInside(box, state, 'bottom') + (content.after[state] ?? 0);
    const padding = fourValues([top, sideSpace(box, state, 'right'), bottom, sideSpace(box, state, 'left')]);
    return new Map([
      ['padding', padding],
      ...fullText(content.text?.[state] ?? new Map()),
      ...(content.lines?.[state] ?? []),
    ]);
  });
  const row = tableRow([element('td', {}, cellStyles, content.nodes)]);
  const isFirm = childrenOf(box).some((child) => spills(child, room));
  const tableStyles = background.map((color) =>
    style([
      ['width', '100%'],
      ['table-layout', isFirm ? 'fixed' : null],
      ['background-color', painted ? color : null],
    ]),
  );
  return {
    body: element(
      'body',
      {},
      background.map((color) =>
        style([
          ['margin', '0'],
          ['padding', '0'],
          ['background-color', painted ? color : null],
        ]),
      ),
      [],
    ),
    table: layoutTable(tableStyles, [row], { width: '100%' }),
  };
}

/** What stands in the body: its blocks, or its own content, without what is at the sides of that. */
function childrenOf(box: Box): readonly Box[] {
  if (box.kind === 'flow') return box.children;
  const edges = sides.flatMap((side) => [`margin-${side}`, `padding-${side}`, `border-${side}-width`]);
  const none = new Map([...edges.map((edge) => [edge, '0px'] as const), ['background-color', 'transparent'] as const]);
  return [{ ...box, styles: box.styles.map((style) => style.with(none)) }];
}

function sideSpace(box: Box, state: number, side: string): number {
  return takeLength(box, state, `margin-${side}`) + spaceInside(box, state, side);
}

/** The body's padding, beside whatever its border takes. */
function spaceInside(box: Box, state: number, side: string): number {
  return takeLength(box, state, `padding-${side}`) + lengthIn(box, state, `border-${side}-width`);
}
