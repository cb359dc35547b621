/**
 * Flow-relative property names as physical ones, for horizontal lines (CSS Logical Properties and Values 1, 3 and 4):
 * `margin-inline-start` is the left margin where text runs from left to right.
 * @returns the property and, for a shorthand of two sides, both; null for a property that is not flow-relative
 */
export function physicalNames(property: string, direction: string): readonly string[] | null {
  const size = sizes.get(property);
  if (size !== undefined) return [size];
  const match = /^(margin|padding|border)-(inline|block)(?:-(start|end))?(?:-(width|style|color))?$/.exec(property);
  if (match === null) return null;
  const [, box = '', axis = '', edge, part] = match;
  const edges = edge === undefined ? ['start', 'end'] : [edge];
  return edges.map((name) => [box, side(axis, name, direction), part].filter((piece) => piece !== undefined).join('-'));
}

const sizes: ReadonlyMap<string, string> = new Map([
  ['inline-size', 'width'],
  ['block-size', 'height'],
  ['min-inline-size', 'min-width'],
  ['min-block-size', 'min-height'],
  ['max-inline-size', 'max-width'],
  ['max-block-size', 'max-height'],
]);

function side(axis: string, edge: string, direction: string): string {
  if (axis === 'block') return edge === 'start' ? 'top' : 'bottom';
  return (edge === 'start') === (direction !== 'rtl') ? 'left' : 'right';
}
