import { attribute } from '../../html/tree.js';
import { layoutAdvice } from '../../findings/wording/layout.js';
import { withoutFrame, type Box, type PictureBox, type RowBox } from '../boxes/boxes.js';
import { inState, type BoxInState } from '../boxes/box-in-state.js';
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
      pictureIn(item) === null ? guessedHeight(inState(item, state), room, widthOf(at, state), true) : 0,
    );
    const line = Math.max(0, ...heights);
    return box.children.flatMap((item): LayoutProblem[] => {
      const picture = pictureIn(item);
      const own = inState(item, state);
      if (picture === null || own.isHidden || !isStretched(box, item, own.of(picture))) return [];
      const natural = room.pictureSize(attribute(picture.element.node, 'src') ?? '');
      const shown = shownSize(own.of(picture), natural, narrowestWidth(room, state));
      if (shown === null) return [];
      const height = shown.height + (picture === item ? 0 : own.edge('top') + own.edge('bottom'));
      return line > height + 1 ? [problemIn(inState(box, state), 'align-items', layoutAdvice.pictureStretched)] : [];
    });
  });
}

/** The picture that an item is, by itself or with its margins around it. */
function pictureIn(item: Box): PictureBox | null {
  const inner = withoutFrame(item);
  return inner?.kind === 'picture' ? inner : null;
}

function isStretched(box: RowBox, item: Box, picture: BoxInState<PictureBox>): boolean {
  const own = picture.of(item).style.get('align-self');
  const align = own === 'auto' ? picture.of(box).style.get('align-items') : own;
  return /^(?:normal|stretch)$/.test(align) && picture.style.get('height') === 'auto';
}
