import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import { finding } from '../../findings/finding.js';
import { attribute } from '../../html/tree.js';
import { sides } from '../../css/values/properties.js';
import { formatNumber } from '../../css/values/value.js';
import { boxStyle } from '../boxes/box-style.js';
import { isAuthored, isPainted, type PictureBox } from '../boxes/boxes.js';
import { inState, inStates, type BoxInState } from '../boxes/box-in-state.js';
import { DESKTOP_VIEWPORT, desktopWidth, hideWithBox, passedAttributes, type PictureSize, type Room } from './room.js';
import { fittedPicture } from './fitted-picture.js';
import { element, type OutElement, type Style } from '../print/output.js';

/** What a picture is among what stands around it. */
export type PictureRole = 'block' | 'inline';

/** What a picture is by its own style on the desktop. */
export function pictureRole(desktop: ComputedStyle | undefined): PictureRole {
  return desktop?.take('display') === 'block' ? 'block' : 'inline';
}

/**
 * Emits a picture. Its `width` and `height` attributes say what it measures on the desktop, as the `word` engine
 * reads only them; its style says what the author wrote.
 * @param as whether the picture is a block of its own, or stands in a line
 * @param inLine in which states a block of its own stands in a line nevertheless
 */
export function emitPicture(box: PictureBox, room: Room, as: PictureRole, inLine: readonly boolean[] = []): OutElement {
  const { node } = box.element;
  const named = attribute(node, 'src') ?? '';
  if (named === '' && node.startTag !== null)
    room.report(finding('picture-no-source', { source: room.doc.source, span: node.startTag }));
  const { path, natural } = fittedPicture(box, named, room);
  const shown = shownSize(inState(box, 0), natural, desktopWidth(room));
  room.states.forEach(({ maxWidth }, state) => {
    const available = room.widthAt(maxWidth ?? DESKTOP_VIEWPORT, state);
    room.pictureShown(path, shownSize(inState(box, state), natural, available)?.width ?? null);
  });
  const attributes: Record<string, string> = { ...passedAttributes(box.element), border: '0' };
  if (path !== named) {
    attributes['src'] = path;
    // Other sizes of the picture have its own shape.
    for (const name of ['srcset', 'sizes']) delete attributes[name];
  }
  if (shown !== null)
    Object.assign(attributes, { width: String(Math.round(shown.width)), height: String(Math.round(shown.height)) });
  if (attribute(node, 'alt') === null) attributes['alt'] = '';
  const aligned = attribute(node, 'align') ?? '';
  if (/^(?:top|middle|bottom|absmiddle|texttop)$/i.test(aligned)) attributes['align'] = aligned;
  const side = box.styles[0]?.take('float') ?? 'none';
  if (side !== 'none') attributes['align'] = side;
  return hideWithBox(
    element(
      'img',
      attributes,
      inStates(box).map((own) => pictureStyle(own, natural, as, inLine[own.state] === true)),
      [],
    ),
    box,
  );
}

function pictureStyle(
  box: BoxInState<PictureBox>,
  natural: PictureSize | null,
  as: PictureRole,
  isInLine: boolean,
): Style {
  const style = box.style;
  const result = new Map<string, string>();
  const isFloating = box.itself.styles.some((own) => own.get('float') !== 'none');
  if (isFloating) {
    result.set('float', style.take('float'));
    // The attribute that says the same to old engines aligns the picture too, once it does not float.
    result.set('vertical-align', style.take('vertical-align'));
  }
  const isBlock = as === 'block' && !isFloating;
  if (isBlock) result.set('display', isInLine ? 'inline' : 'block');
  if ((!isBlock || isInLine) && (style.isAuthored('vertical-align') || style.pixels('vertical-align') !== null))
    result.set('vertical-align', style.take('vertical-align'));
  result.set('width', cssWidth(box, natural));
  if (style.take('max-width') !== 'none') result.set('max-width', style.take('max-width'));
  if (style.take('max-height') !== 'none') result.set('max-height', style.take('max-height'));
  result.set('height', style.take('height'));
  const hasPadding = box.itself.styles.some((own) => sides.some((name) => own.get(`padding-${name}`) !== '0px'));
  if (
    isPainted(box.itself) ||
    hasPadding ||
    isAuthored(box.itself.styles, 'padding-top') ||
    isAuthored(box.itself.styles, 'border-top-left-radius')
  ) {
    for (const [property, value] of boxStyle(box)) result.set(property, value);
    if (style.take('box-sizing') === 'border-box') result.set('box-sizing', 'border-box');
  }
  const margin = pictureMargin(box, isInLine ? 'inline' : as);
  if (margin !== null) result.set('margin', margin);
  if (style.isAuthored('min-height')) result.set('min-height', style.take('min-height'));
  if (![...result.keys()].some((property) => /^border(?:-(?:top|right|bottom|left))?$/.test(property)))
    result.set('border', '0');
  return result;
}

/** Above and below, a block's margins belong to the rows around it. */
function pictureMargin(box: BoxInState<PictureBox>, as: PictureRole): string | null {
  const style = box.style;
  const side = (name: string): string =>
    style.take(name) === 'auto' ? 'auto' : `${formatNumber(box.takeLength(name), 2)}px`;
  const isFloating = style.get('float') !== 'none';
  const [top, bottom] = as === 'block' && !isFloating ? ['0px', '0px'] : [side('margin-top'), side('margin-bottom')];
  const values = [top, side('margin-right'), bottom, side('margin-left')];
  const matters = box.itself.styles.some((candidate) =>
    ['margin-top', 'margin-right', 'margin-bottom', 'margin-left'].some((name) => candidate.get(name) !== '0px'),
  );
  return matters ? values.join(' ') : null;
}

/** A width that only `max-width` bounds is stated, so that no engine takes the bound for the width. */
function cssWidth(box: BoxInState<PictureBox>, natural: PictureSize | null): string {
  const width = box.style.take('width');
  if (width !== 'auto' || natural === null) return width;
  return `${formatNumber(naturalWidth(box, natural), 2)}px`;
}

/** The width of a picture that says none: that of the file, or what its height or the bound of it makes of that. */
function naturalWidth(box: BoxInState<PictureBox>, natural: PictureSize): number {
  const style = box.style;
  const height = style.takePixels('height') ?? natural.height;
  const bound = style.takePixels('max-height') ?? Infinity;
  return (Math.min(height, bound) * natural.width) / natural.height;
}

/** What a picture measures in a state, in px; null where neither the author nor the file says. */
export function shownSize(
  box: BoxInState<PictureBox>,
  natural: PictureSize | null,
  available: number,
): PictureSize | null {
  const { style } = box;
  const ratio = natural === null ? null : natural.height / natural.width;
  const height = style.takePixels('height');
  const wanted = style.takePixelsWithin('width', available) ?? (natural === null ? null : naturalWidth(box, natural));
  if (wanted === null) return null;
  const width = Math.min(wanted, style.takePixelsWithin('max-width', available) ?? Infinity);
  const tall = height ?? (ratio === null ? null : width * ratio);
  return tall === null ? null : { width, height: tall };
}
