import { attribute } from '../../html/tree.js';
import { layoutAdvice } from '../../findings/wording/layout.js';
import { edgeIn, isHidden, styleIn, type Box, type PictureBox, type RowBox } from '../boxes/boxes.js';
import { shownSize } from '../content/picture.js';
import { problemIn, type LayoutProblem } from '../content/problems.js';
import { narrowestWidth, type Room } from '../content/room.js';
import { guessedHeight } from '../content/text-height.js';

/**
 * Pictures that are items of a row without an alignment, beside something higher: a browser stretches them to that height
 * (CSS Flexible Box Layout 1, 8.3), which distorts them.
 * @param widthOf how wide a column is on the narrowest window of a state, in px
 */
export function stretchedPictures(
  box: RowBox,
  modes: readonly string[],
  room: Room,
  widthOf: (item: number, state: number) => number,
): LayoutProblem[] {
  return modes.flatMap((mode, state) => {
    if (mode !== 'side-by-side') return [];
    const heights = box.children.map((item, at) =>
      pictureIn(item) === null ? guessedHeight(item, state, room, widthOf(at, state)) : 0,
    );
    const line = Math.max(0, ...heights);
    return box.children.flatMap((item): LayoutProblem[] => {
      const picture = pictureIn(item);
      if (picture === null || isHidden(item, state) || !isStretched(box, item, picture, state)) return [];
      const natural = room.pictureSize(attribute(picture.element.node, 'src') ?? '');
      const shown = shownSize(picture, natural, narrowestWidth(room, state), state);
      if (shown === null) return [];
      const height = shown.height + (picture === item ? 0 : edgeIn(item, state, 'top') + edgeIn(item, state, 'bottom'));
      return line > height + 1 ? [problemIn(box, state, 'align-items', layoutAdvice.pictureStretched)] : [];
    });
  });
}

/** The picture that an item is, by itself or with its margins around it. */
function pictureIn(item: Box): PictureBox | null {
  const inner = item.kind === 'flow' && item.isFrame === true ? item.children[0] : item;
  return inner?.kind === 'picture' ? inner : null;
}

function isStretched(box: RowBox, item: Box, picture: PictureBox, state: number): boolean {
  const own = styleIn(item, state).get('align-self');
  const align = own === 'auto' ? styleIn(box, state).get('align-items') : own;
  return /^(?:normal|stretch)$/.test(align) && styleIn(picture, state).get('height') === 'auto';
}
