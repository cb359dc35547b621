/** What the computed styles of a layout need to know of a property: whether it inherits, and its initial value. */
export interface Property {
  readonly inherited: boolean;
  readonly initial: string;
}

function inherited(initial: string): Property {
  return { inherited: true, initial };
}

function own(initial: string): Property {
  return { inherited: false, initial };
}

/** The physical sides, in the order of CSS shorthands. */
export const sides = ['top', 'right', 'bottom', 'left'] as const;
export type Side = (typeof sides)[number];

/** The corners, in the order of `border-radius`. */
export const corners = ['top-left', 'top-right', 'bottom-right', 'bottom-left'] as const;

const perSide = (name: string, value: Property): [string, Property][] =>
  sides.map((side) => [name.replace('*', side), value]);

/** Longhand properties that take part in layout. Initial values follow the specifications of each property. */
export const properties: ReadonlyMap<string, Property> = new Map<string, Property>([
  // Text: these inherit.
  ['color', inherited('#000000')],
  ['font-family', inherited('serif')],
  ['font-size', inherited('16px')],
  ['font-style', inherited('normal')],
  ['font-weight', inherited('400')],
  ['font-variant', inherited('normal')],
  ['line-height', inherited('normal')],
  ['letter-spacing', inherited('normal')],
  ['word-spacing', inherited('normal')],
  ['text-align', inherited('start')],
  ['text-indent', inherited('0px')],
  ['text-transform', inherited('none')],
  ['white-space', inherited('normal')],
  ['word-break', inherited('normal')],
  ['overflow-wrap', inherited('normal')],
  ['hyphens', inherited('manual')],
  ['direction', inherited('ltr')],
  ['visibility', inherited('visible')],
  ['list-style-type', inherited('disc')],
  ['list-style-position', inherited('outside')],
  ['list-style-image', inherited('none')],
  ['border-collapse', inherited('separate')],
  ['border-spacing', inherited('0px')],
  ['caption-side', inherited('top')],
  ['cursor', inherited('auto')],
  ['color-scheme', inherited('normal')],
  ['quotes', inherited('auto')],
  ['text-shadow', inherited('none')],
  ['text-wrap', inherited('wrap')],
  ['text-align-last', inherited('auto')],
  // Boxes: these do not.
  ['display', own('inline')],
  ['box-sizing', own('content-box')],
  ['width', own('auto')],
  ['min-width', own('auto')],
  ['max-width', own('none')],
  ['height', own('auto')],
  ['min-height', own('auto')],
  ['max-height', own('none')],
  ...perSide('margin-*', own('0px')),
  ...perSide('padding-*', own('0px')),
  // A width of "medium" only counts beside a style; without one it is 0 (CSS Backgrounds 3, 3.3).
  ...perSide('border-*-width', own('0px')),
  ...perSide('border-*-style', own('none')),
  ...perSide('border-*-color', own('currentcolor')),
  ...corners.map((corner): [string, Property] => [`border-${corner}-radius`, own('0px')]),
  ['background-color', own('transparent')],
  ['background-image', own('none')],
  ['background-position', own('0% 0%')],
  ['background-size', own('auto')],
  ['background-repeat', own('repeat')],
  ['flex-direction', own('row')],
  ['flex-wrap', own('nowrap')],
  ['flex-grow', own('0')],
  ['flex-shrink', own('1')],
  ['flex-basis', own('auto')],
  ['order', own('0')],
  ['row-gap', own('normal')],
  ['column-gap', own('normal')],
  ['justify-content', own('normal')],
  ['align-items', own('normal')],
  ['align-self', own('auto')],
  ['align-content', own('normal')],
  ['justify-items', own('normal')],
  ['justify-self', own('auto')],
  ['grid-template-columns', own('none')],
  ['grid-template-rows', own('none')],
  ['grid-auto-flow', own('row')],
  ['grid-template-areas', own('none')],
  ['grid-area', own('auto')],
  ['grid-column', own('auto')],
  ['grid-row', own('auto')],
  ['background-attachment', own('scroll')],
  ['animation', own('none')],
  ['box-shadow', own('none')],
  ['content', own('normal')],
  ['counter-reset', own('none')],
  ['counter-increment', own('none')],
  ['counter-set', own('none')],
  ['object-fit', own('fill')],
  ['object-position', own('50% 50%')],
  ['aspect-ratio', own('auto')],
  ['opacity', own('1')],
  ['vertical-align', own('baseline')],
  ['text-decoration', own('none')],
  ['overflow', own('visible')],
  ['position', own('static')],
  ...sides.map((side): [string, Property] => [side, own('auto')]),
  ['float', own('none')],
  ['clear', own('none')],
  ['table-layout', own('auto')],
  ['--row', own('')],
]);

/** Properties of text that inherit and that emitted cells must state, in the order they are written. */
export const textProperties = [
  'font-family',
  'font-size',
  'line-height',
  'font-weight',
  'font-style',
  'font-variant',
  'color',
  'text-align',
  'letter-spacing',
  'word-spacing',
  'text-indent',
  'text-transform',
  'white-space',
  'word-break',
  'overflow-wrap',
  'text-shadow',
  'text-wrap',
  'text-align-last',
  'direction',
] as const;
