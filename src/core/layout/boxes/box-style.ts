import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import { withPixels } from '../../css/values/math.js';
import { corners, sides, type Side } from '../../css/values/properties.js';
import { formatNumber } from '../../css/values/value.js';
import { anyState, isAuthored, type Box, type Styled } from './boxes.js';
import type { BoxInState } from './box-in-state.js';

/** Space that is added to a box's own padding, in px. */
export type ExtraPadding = Readonly<Record<Side, number>>;

/** No extra padding. */
export const noExtra: ExtraPadding = { top: 0, right: 0, bottom: 0, left: 0 };

/** Padding, paint, border and corners of a box in a state, as declarations; what is not there in any state stays out. */
export function boxStyle(box: BoxInState<Styled>, extra: ExtraPadding = noExtra): Map<string, string> {
  const result = new Map<string, string>();
  result.set('padding', paddingOf(box, extra));
  for (const [property, value] of paintOf(box)) result.set(property, value);
  return result;
}

/** `padding` with as few values as say it. */
export function paddingOf(box: BoxInState<Styled>, extra: ExtraPadding): string {
  return fourValues(sides.map((side) => box.takeLength(`padding-${side}`) + extra[side]));
}

/** Four lengths in px, written with as few values as say them. */
export function fourValues(values: readonly number[]): string {
  return fewestValues(values.map(shortPixels));
}

/** The values of four sides, written with as few as say them. */
export function fewestValues([top = '0', right = '0', bottom = '0', left = '0']: readonly string[]): string {
  if (left !== right) return `${top} ${right} ${bottom} ${left}`;
  if (top !== bottom) return `${top} ${right} ${bottom}`;
  return top === right ? top : `${top} ${right}`;
}

/** `12px`, or `0` without a unit. */
export function shortPixels(value: number): string {
  const text = formatNumber(value, 2);
  return text === '0' ? '0' : `${text}px`;
}

function paintOf(box: BoxInState<Styled>): [string, string][] {
  const animation: [string, string][] = anyState(box.itself, 'animation', 'none')
    ? [['animation', box.style.take('animation')]]
    : [];
  const shadow: [string, string][] = anyState(box.itself, 'box-shadow', 'none')
    ? [['box-shadow', box.style.take('box-shadow')]]
    : [];
  return [...backgroundOf(box), ...borderOf(box), ...radiusOf(box), ...shadow, ...animation];
}

function backgroundOf(box: BoxInState<Styled>): [string, string][] {
  const style = box.style;
  const result: [string, string][] = [];
  if (anyState(box.itself, 'background-color', 'transparent'))
    result.push(['background-color', style.take('background-color')]);
  if (!anyState(box.itself, 'background-image', 'none')) return result;
  result.push(['background-image', style.take('background-image')]);
  for (const [property, initial] of [
    ['background-position', '0% 0%'],
    ['background-size', 'auto'],
    ['background-repeat', 'repeat'],
  ] as const) {
    if (anyState(box.itself, property, initial)) result.push([property, style.take(property)]);
  }
  return result;
}

function borderOf(box: BoxInState<Styled>): [string, string][] {
  const lines = sides.map((side) => borderLine(box, side));
  const present = sides.filter((side) => anyState(box.itself, `border-${side}-width`, '0px'));
  if (present.length === 0) return [];
  if (present.length === 4 && new Set(lines).size === 1) return [['border', lines[0] ?? 'none']];
  return present.map((side): [string, string] => [`border-${side}`, borderLine(box, side)]);
}

/** The border of one side, in one value. */
export function borderLine(box: BoxInState<Styled>, side: string): string {
  const style = box.style;
  const width = box.takeLength(`border-${side}-width`);
  if (width === 0) return '0';
  const color = style.take(`border-${side}-color`);
  return `${shortPixels(width)} ${style.take(`border-${side}-style`)} ${color === 'currentcolor' ? style.take('color') : color}`;
}

function radiusOf(box: BoxInState<Styled>): [string, string][] {
  if (!corners.some((corner) => anyState(box.itself, `border-${corner}-radius`, '0px'))) return [];
  const style = box.style;
  const [first = '0', second = '0', third = '0', fourth = '0'] = corners.map((corner) =>
    style.take(`border-${corner}-radius`),
  );
  const same = first === second && second === third && third === fourth;
  return [['border-radius', same ? first : `${first} ${second} ${third} ${fourth}`]];
}

/** Padding and border at the left and the right of a box, in px. */
export function sideEdges(style: ComputedStyle): number {
  return ['padding-left', 'padding-right', 'border-left-width', 'border-right-width'].reduce(
    (sum, property) => sum + (style.pixels(property) ?? 0),
    0,
  );
}

/** A width with padding and border, as tables measure theirs. */
export function outerLength(box: BoxInState, value: string): string {
  const edges = box.sideEdges;
  return edges === 0 || box.style.take('box-sizing') === 'border-box' ? value : withPixels(value, edges);
}

/**
 * Whether a box says its direction and has another border at its left than at its right: browsers take the sides of a cell's
 * border as its table runs, not as the cell does, so the table has to run as it does.
 */
export function turnsBorders(box: Box): boolean {
  const isTurned = isAuthored(box.styles, 'direction') || box.element?.node.attributes.has('dir') === true;
  const isRightToLeft = box.styles.some((own) => own.get('direction') === 'rtl');
  return (isTurned || isRightToLeft) && hasUnequalSides(box);
}

/** Whether a box has another border at its left than at its right. */
export function hasUnequalSides(box: Box): boolean {
  return box.styles.some((own) => own.get('border-left-width') !== own.get('border-right-width'));
}
