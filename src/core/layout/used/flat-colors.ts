import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { ElementIndex, IndexedElement } from '../../css/selectors/element-index.js';
import { over, printColor, readColor, type Rgba } from '../../css/values/mixed-color.js';
import { sides } from '../../css/values/properties.js';

const lineColors = sides.map((side) => `border-${side}-color`);
const colors = ['background-color', 'color', ...lineColors];

/** A group of elements that is shown with one opacity over what lies beneath it (CSS Color 4, 3.2). */
interface Veil {
  readonly opacity: number;
  readonly beneath: Rgba;
}

/**
 * Makes colours opaque where what lies beneath them is one colour: old engines know no others. Where a picture lies beneath,
 * they stay as they are; so does an `opacity` that a picture has.
 * @param canvas what lies beneath all
 */
export function withFlatColors(
  { elements }: ElementIndex,
  styles: readonly ComputedStyle[],
  canvas: Rgba,
): readonly ComputedStyle[] {
  if (!styles.some(isSheer)) return styles;
  const flat: ComputedStyle[] = [];
  const grounds: (Rgba | null)[] = [];
  const veils: (readonly Veil[])[] = [];
  for (const element of elements) {
    const style = styles[element.order];
    if (style === undefined) continue;
    const above = element.parent?.order ?? -1;
    const beneath = above < 0 ? canvas : (grounds[above] ?? null);
    const ground = groundOf(style, beneath);
    const opacity = Number(style.get('opacity'));
    const isVeiled = opacity < 1 && beneath !== null && !holdsPicture(element, styles);
    const own = isVeiled ? [{ opacity, beneath }, ...(veils[above] ?? [])] : (veils[above] ?? []);
    if (isVeiled) style.take('opacity');
    grounds.push(ground);
    veils.push(own);
    flat.push(flattened(style, { beneath, ground, veils: own, isVeiled }));
  }
  return flat;
}

function isSheer(style: ComputedStyle): boolean {
  return style.get('opacity') !== '1' || colors.some((property) => style.get(property).startsWith('rgba('));
}

/** What lies beneath the content of an element; null for a picture, or for what is not known. */
function groundOf(style: ComputedStyle, beneath: Rgba | null): Rgba | null {
  if (style.get('background-image') !== 'none') return null;
  const own = readColor(style.get('background-color'));
  if (own === null) return null;
  if (own.alpha === 1) return own;
  return beneath === null ? null : over(own, beneath);
}

function holdsPicture(element: IndexedElement, styles: readonly ComputedStyle[]): boolean {
  const style = styles[element.order];
  if (style?.get('display') === 'none') return false;
  if (element.node.tag === 'img' || style?.get('background-image') !== 'none') return true;
  return element.children.some((child) => holdsPicture(child, styles));
}

interface Surface {
  readonly beneath: Rgba | null;
  readonly ground: Rgba | null;
  readonly veils: readonly Veil[];
  readonly isVeiled: boolean;
}

function flattened(style: ComputedStyle, { beneath, ground, veils, isVeiled }: Surface): ComputedStyle {
  const changes = new Map<string, string>(isVeiled ? [['opacity', '1']] : []);
  const set = (property: string, under: Rgba | null): void => {
    const color = readColor(style.get(property));
    if (color === null || color.alpha === 0 || (color.alpha === 1 && veils.length === 0)) return;
    if (color.alpha < 1 && under === null) return;
    const opaque = under === null ? color : over(color, under);
    changes.set(
      property,
      printColor(veils.reduce((shown, veil) => over({ ...shown, alpha: veil.opacity }, veil.beneath), opaque)),
    );
  };
  set('background-color', beneath);
  set('color', ground);
  for (const property of lineColors) set(property, ground);
  return changes.size === 0 ? style : style.with(changes);
}
