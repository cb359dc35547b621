import type { IndexedElement } from '../css/selectors/element-index.js';
import type { Box } from './boxes/boxes.js';
import { inState, inStates, type BoxInState } from './boxes/box-in-state.js';
import { readBox } from './boxes/read-box.js';
import { fourValues } from './boxes/box-style.js';
import { sides } from '../css/values/properties.js';
import { DESKTOP_VIEWPORT, type EmitContext, type Room } from './content/room.js';
import { emitBoxTable, emitCell } from './cells/cell.js';
import { emitPhrase } from './content/inline.js';
import { emitFlow } from './cells/flow.js';
import { closedSides, collapseMargins } from './boxes/margins.js';
import { spills } from './content/spill.js';
import { element, layoutTable, pulledUp, style, tableRow, type OutElement } from './print/output.js';
import { fullText } from './print/text-style.js';

export interface Page {
  /** The body's own styles; its content is the table. */
  readonly body: OutElement;
  readonly table: OutElement;
}

/** The body's margin and padding become the padding of one cell as wide as the window. */
export function emitPage(body: IndexedElement, width: number, context: EmitContext): Page {
  const box = readBox(body, context);
  const states = inStates(box);
  const bounded = blocksOf(box).some(({ styles: [desktop] }) =>
    ['max-width', 'width'].some((property) => (desktop?.pixels(property) ?? null) !== null),
  );
  const available = (viewport: number): number => (viewport === DESKTOP_VIEWPORT && !bounded ? width : viewport);
  const room: Room = {
    ...context,
    make: { cell: emitCell, table: emitBoxTable, phrase: emitPhrase },
    text: null,
    widthAt: (viewport, state) =>
      available(viewport) - sideSpace(inState(box, state), 'left') - sideSpace(inState(box, state), 'right'),
  };
  const content = emitFlow([...blocksOf(box)], box, room, states.map(closedSides));
  const spacings = states.map((own) => collapseMargins([own], { top: true, bottom: true }, () => true));
  const background = box.styles.map((style) => style.take('background-color'));
  const painted = background.some((color) => color !== 'transparent');
  const bottoms = states.map(
    (own, state) => (spacings[state]?.below ?? 0) + spaceInside(own, 'bottom') + (content.after[state] ?? 0),
  );
  const beyond = bottoms.map((bottom) => Math.max(0, -bottom));
  const cellStyles = states.map((own, state) => {
    const top = (spacings[state]?.above.get(box) ?? 0) + spaceInside(own, 'top') + (content.before[state] ?? 0);
    const bottom = Math.max(0, bottoms[state] ?? 0);
    const padding = fourValues([top, sideSpace(own, 'right'), bottom, sideSpace(own, 'left')]);
    return new Map([
      ['padding', padding],
      ...fullText(content.text?.[state] ?? new Map()),
      ...(content.lines?.[state] ?? []),
    ]);
  });
  const row = tableRow([element('td', {}, cellStyles, pulledUp(content.nodes, beyond))]);
  const isFirm = blocksOf(box).some((child) => spills(child, room));
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
function blocksOf(box: Box): readonly Box[] {
  if (box.kind === 'flow') return box.children;
  const edges = sides.flatMap((side) => [`margin-${side}`, `padding-${side}`, `border-${side}-width`]);
  const none = new Map([...edges.map((edge) => [edge, '0px'] as const), ['background-color', 'transparent'] as const]);
  return [{ ...box, styles: box.styles.map((style) => style.with(none)) }];
}

function sideSpace(box: BoxInState, side: string): number {
  return box.takeLength(`margin-${side}`) + spaceInside(box, side);
}

/** The body's padding, beside whatever its border takes. */
function spaceInside(box: BoxInState, side: string): number {
  return box.takeLength(`padding-${side}`) + box.length(`border-${side}-width`);
}
