import { cssDetail } from '../findings/wording/css.js';
import { htmlDetail } from '../findings/wording/html.js';
import { layoutAdvice } from '../findings/wording/layout.js';
import { compareCascade, type Declared } from '../css/cascade/cascade.js';
import { computeStyles, type ComputedStyle, type ComputedStyles } from '../css/cascade/computed.js';
import { indexElements, type ElementIndex, type IndexedElement } from '../css/selectors/element-index.js';
import { declarationsOf } from '../css/cascade/document-cascade.js';
import { invalidMedia } from '../css/cascade/media-validity.js';
import type { Condition, StyleRule } from '../css/cascade/rules.js';
import { properties } from '../css/values/properties.js';
import { expandShorthand } from '../css/values/shorthands.js';
import { judgeValue } from '../css/values/validity.js';
import { finding, type Finding, type Report } from '../findings/finding.js';
import { holdsTag } from '../html/tags.js';
import { attribute, firstElement, type Doc } from '../html/tree.js';
import { readBox, type Box } from './boxes/boxes.js';
import { ClassBook } from './print/classes.js';
import { fourValues } from './boxes/box-style.js';
import { checkFonts, completeStack, usedFonts, type WebFont } from './boxes/fonts.js';
import { edgeIn, lengthIn, styleIn } from './boxes/boxes.js';
import { pixelsOf } from '../css/values/value.js';
import { DESKTOP_VIEWPORT, forStates, type EmitContext, type PictureSize, type Room } from './content/room.js';
import { emitBoxTable, emitCell } from './cells/cell.js';
import { emitFlow } from './cells/flow.js';
import { standsInRaw } from './content/native.js';
import { closedSides, collapseMargins } from './boxes/margins.js';
import { problemIn, reportProblems } from './content/problems.js';
import { spills } from './content/spill.js';
import { element, layoutTable, style, tableRow, type OutElement, type Style } from './print/output.js';
import { printNodes, printStyle, type Writer } from './print/print.js';
import { viewTree, type TreeView, type ViewWriter } from './print/view.js';
import { fillGeneratedBoxes, withGeneratedBoxes } from './generated.js';
import { fluidThresholds } from './fluid.js';
import { reportGrowing, reportLengths } from './lengths.js';
import { columnsKey, withSettledColumns } from './boxes/intrinsic.js';
import { usedStyles } from './boxes/used-values.js';
import { statesBetween, type WidthState } from './boxes/states.js';
import { addVariant, mergeVariant } from './print/merge-variant.js';
import { judgeDeclaration } from './support.js';
import { fullText } from './print/text-style.js';
import { appliesIn, isOwnHover, readCondition, variantsOf, type Variant } from './boxes/variants.js';

/** What the layout of a message needs. */
export interface LayoutInput {
  readonly doc: Doc;
  /** The author's rules, in order. */
  readonly rules: readonly StyleRule[];
  /** The width of the message in px, for pictures and the `word` engine, where no container bounds it. */
  readonly width: number;
  /** The natural size of a picture, by the path that the source gives. */
  readonly pictureSize: (path: string) => PictureSize | null;
  /** The web fonts that the message may use. */
  readonly fonts: readonly WebFont[];
}

/** A message whose layout is done: what depends on a destination is still open. */
export interface CompiledLayout {
  /** True where something holds in one colour scheme only. */
  readonly hasDarkScheme: boolean;
  /** The widths of the window, in px, up to which another layout holds than above them. */
  readonly thresholds: readonly number[];
  /** Where lengths follow the window, the widths of the window at which they are exact. */
  readonly exactWidths: readonly number[];
  /** The web fonts that the message does use, and the stacks of families in which they stand. */
  readonly fonts: readonly WebFont[];
  readonly fontStacks: readonly string[];
  /** How wide pictures are shown at most, in px, by the paths that the source gives; null where that is not known. */
  readonly pictureWidths: ReadonlyMap<string, number | null>;
  /** The body as a tree, as a window of this width shows it. */
  readonly view: (writer: ViewWriter, viewport: number) => TreeView;
  /** Writes the body (with its tags) and the style sheet for the head. */
  readonly print: (writer: Writer, first: string) => { readonly body: string; readonly css: string };
}

/** Elements nested deeper than this are refused; browsers cut trees off at a similar depth. */
const DEEPEST = 400;

/** Compiles the body of a message to tables. Null where findings make that pointless. */
export function compileLayout(input: LayoutInput, report: Report): CompiledLayout | null {
  const { doc } = input;
  const plain = indexElements(doc);
  const tooDeep = deepest(plain);
  if (tooDeep !== null) {
    report(
      finding(
        'markup-broken',
        { source: doc.source, span: tooDeep.node.startTag ?? { start: 0, end: 0 } },
        { detail: htmlDetail.nestedDeep(DEEPEST) },
      ),
    );
    return null;
  }
  const own = declarationsOf(plain, input.rules, report);
  const generated = withGeneratedBoxes(plain, own, input.rules);
  const { index } = generated;
  const declared = generated.declared.map((list) => list.map((item) => withWholeStack(item, input.fonts)));
  checkFonts(declared, input.fonts, report);
  const thresholds = conditionThresholds(input.rules, report);
  const columns = columnThresholds(index, declared, thresholds);
  const changes = [...thresholds, ...columns];
  const fluid = fluidThresholds(declared, changes);
  const states = statesBetween([...changes, ...fluid]);
  reportRules(input.rules, report);
  const body = firstElement(index.doc.root, 'body');
  const bodyElement = body === null ? undefined : index.of.get(body);
  if (bodyElement === undefined) return null;
  const linkedIds = new Set(
    index.elements.flatMap(({ node }) => /^#(.+)/.exec(attribute(node, 'href') ?? '')?.[1] ?? []),
  );
  const variants = variantsOf(declared);
  const computed = [null, ...variants].map((variant) =>
    stylesInStates(index, declared, states, variant, variant === null ? report : () => undefined),
  );
  const styleSets = fillGeneratedBoxes(generated, computed, report);
  const shown = shownDisplays(index, styleSets.flat());
  reportUnsupported(index, declared, (order) => shown[order] !== null, report);
  for (const styles of styleSets) reportLengths(index, styles, (order) => shown[order] !== null, report);
  const pictureWidths = new Map<string, number | null>();
  const pictureShown: EmitContext['pictureShown'] = (path, width) => {
    const known = pictureWidths.get(path);
    pictureWidths.set(path, width === null || known === null ? null : Math.max(width, known ?? 0));
  };
  const emit = (set: number, to: Report): Page => {
    const styles = styleSets[set] ?? [];
    const restyled = new Map<IndexedElement, readonly ComputedStyle[]>();
    const context: EmitContext = {
      doc,
      states,
      styles: (candidate) => restyled.get(candidate) ?? styles.map((ofState) => ofState[candidate.order] ?? fail()),
      restyle: (candidate, other) => void restyled.set(candidate, other),
      lookup: (node) => (node.kind === 'element' ? (index.of.get(node) ?? null) : null),
      shownDisplay: (candidate) => shown[candidate.order] ?? null,
      refuse: (candidate, property, advice) => {
        const box: Box = { kind: 'flow', element: candidate, styles: context.styles(candidate), children: [] };
        const state = box.styles.findIndex((style) => style.declaredBy(property) !== null);
        reportProblems([problemIn(box, Math.max(0, state), property, advice)], context);
      },
      linkedIds,
      unknownStyle: (candidate, state) =>
        unknownStyle(declared[candidate.order] ?? [], states[state], variants[set - 1] ?? null),
      pictureSize: input.pictureSize,
      pictureShown,
      report: to,
    };
    return emitPage(bodyElement, input.width, context);
  };
  const page = emit(0, report);
  variants.forEach((variant, number) =>
    addVariantTo(
      page,
      emit(number + 1, () => undefined),
      variant,
      report,
    ),
  );
  const fonts = usedFonts(declared, input.fonts);
  const stacks = styleSets.flat(2).map((style) => style.get('font-family'));
  return {
    fonts,
    fontStacks: [...new Set(stacks)],
    pictureWidths,
    thresholds: [...new Set(changes)],
    exactWidths: fluid,
    hasDarkScheme: variants.some(({ conditions }) => conditions.some((text) => /prefers-color-scheme/.test(text))),
    view: (writer, viewport) => {
      const state = states.findIndex(({ minWidth }) => minWidth <= viewport);
      return viewTree(page.body, [page.table], Math.max(0, state), writer);
    },
    print: (writer, first) => {
      const classes = new ClassBook(states, variants);
      const [desktop = new Map<string, string>()] = page.body.styles;
      const className = classes.classFor(page.body.styles, page.body.variants);
      const inner = printNodes([page.table], classes, writer);
      const named = className === null ? '' : ` class="${className}"`;
      const opening = `<body${named} style="${printStyle(desktop, writer)}">`;
      return { body: `${opening}${first}${inner}\n</body>`, css: classes.styleSheet() };
    },
  };
}

/** How each element displays where it does. */
function shownDisplays(index: ElementIndex, styles: readonly (readonly ComputedStyle[])[]): (string | null)[] {
  return index.elements.map(
    ({ order }) =>
      styles.map((ofState) => ofState[order]?.get('display') ?? 'none').find((display) => display !== 'none') ?? null,
  );
}

/** Where other circumstances build other tables, styles alone cannot say the difference. */
function addVariantTo(page: Page, other: Page, variant: Variant, report: Report): void {
  addVariant(page.body, other.body.styles);
  if (mergeVariant([page.table], [other.table])) return;
  const condition = [...variant.conditions, ...(variant.hover ? [':hover'] : [])].join(' and ');
  report(finding('css-condition-layout', variant.place, { condition }));
}

/** A web font that an author names alone gets its fallbacks. */
function withWholeStack(item: Declared, fonts: readonly WebFont[]): Declared {
  const { declaration } = item;
  if (!/^font(?:-family)?$/.test(declaration.property) || fonts.length === 0) return item;
  const value = completeStack(declaration.property, declaration.value, fonts);
  return value === declaration.value ? item : { ...item, declaration: { ...declaration, value } };
}

function fail(): never {
  throw new Error('An element has no computed style.');
}

function deepest(index: ElementIndex): IndexedElement | null {
  const depths = new Map<IndexedElement, number>();
  for (const candidate of index.elements) {
    const depth = candidate.parent === null ? 1 : (depths.get(candidate.parent) ?? 0) + 1;
    if (depth > DEEPEST) return candidate;
    depths.set(candidate, depth);
  }
  return null;
}

/** The widths of the window at which conditions change what applies; conditions that are not compiled are reported. */
function conditionThresholds(rules: readonly StyleRule[], report: Report): number[] {
  const thresholds: number[] = [];
  const reported = new Set<number>();
  for (const condition of rules.flatMap((rule) => rule.conditions)) {
    const problem = conditionProblem(condition);
    if (problem === null) thresholds.push(...(readCondition(condition)?.width?.thresholds ?? []));
    else if (!reported.has(condition.place.span.start)) {
      reported.add(condition.place.span.start);
      report(problem);
    }
  }
  return thresholds;
}

/** What keeps the rules under a condition from being compiled; null where nothing does. */
function conditionProblem(condition: Condition): Finding | null {
  const invalid = condition.kind === 'media' ? invalidMedia(condition.text) : null;
  if (invalid !== null) {
    const advice = invalid.nearest === null ? layoutAdvice.mediaQuery : `Write @media ${invalid.nearest}.`;
    return finding('media-query-invalid', condition.place, { query: invalid.query, detail: invalid.detail, advice });
  }
  if (readCondition(condition) !== null) return null;
  return finding('css-condition-unsupported', condition.place, { condition: `@${condition.kind} ${condition.text}` });
}

function stylesInStates(
  index: ElementIndex,
  declared: readonly Declared[][],
  states: readonly WidthState[],
  variant: Variant | null,
  report: Report,
): readonly (readonly ComputedStyle[])[] {
  const reported = new Set<Declared['declaration']>();
  const used = states.map((state) => {
    const viewport = state.maxWidth ?? DESKTOP_VIEWPORT;
    const { computed, applied } = computedAt(index, declared, state.maxWidth ?? state.minWidth, variant, viewport);
    for (const { declaration } of computed.unresolved) {
      if (reported.has(declaration)) continue;
      reported.add(declaration);
      const name = /var\(\s*(--[^\s,)]+)/.exec(declaration.value)?.[1] ?? declaration.value;
      report(finding('css-unknown-variable', declaration.place, { name }));
    }
    const wide = usedStyles(index, computed.styles, viewport);
    // The widest state has no end: what would grow with the window has no one value in it.
    if (state.maxWidth === null && states.length > 1) {
      const narrow = computeStyles(index, applied, state.minWidth);
      reportGrowing(index, wide.styles, usedStyles(index, narrow.styles, state.minWidth).styles, report);
    }
    return wide;
  });
  return withSettledColumns(index, used);
}

/** The styles of all elements in a window of a width. */
function computedAt(
  index: ElementIndex,
  declared: readonly Declared[][],
  width: number,
  variant: Variant | null,
  viewport: number,
): { computed: ComputedStyles; applied: (element: IndexedElement) => Declared[] } {
  const applies = appliesAt(width, variant);
  const applied = (candidate: IndexedElement): Declared[] => (declared[candidate.order] ?? []).filter(applies);
  return { computed: computeStyles(index, applied, viewport), applied };
}

/** The widths of the window at which the number of columns changes that follows from how wide their container is. */
function columnThresholds(
  index: ElementIndex,
  declared: readonly Declared[][],
  thresholds: readonly number[],
): number[] {
  const follows = declared
    .flat()
    .some(
      ({ declaration: { property, value } }) =>
        /^(?:grid|flex)/.test(property) && /auto-fi|minmax\(|(?<!no)wrap/i.test(value),
    );
  if (!follows) return [];
  const keyAt = (width: number): string =>
    columnsKey(index, usedStyles(index, computedAt(index, declared, width, null, width).computed.styles, width));
  const edges = [...new Set([NARROWEST, ...thresholds.flatMap((width) => [width, width + 1]), WIDEST])]
    .filter((width) => width >= NARROWEST && width <= WIDEST)
    .sort((a, b) => a - b);
  const flips: number[] = [];
  const search = (low: number, lowKey: string, high: number, highKey: string): void => {
    if (lowKey === highKey) return;
    if (high - low <= 1) return void flips.push(low);
    const middle = (low + high) >> 1;
    const key = keyAt(middle);
    search(low, lowKey, middle, key);
    search(middle, key, high, highKey);
  };
  const keys = edges.map(keyAt);
  edges.slice(1).forEach((high, at) => search(edges[at] ?? 0, keys[at] ?? '', high, keys[at + 1] ?? ''));
  return flips;
}

/** Windows between which layouts that follow from a width are looked for, in px. */
const NARROWEST = 320;
const WIDEST = 1000;

/** Tells whether declarations apply at a width; those of one rule are asked once. */
function appliesAt(width: number, variant: Variant | null): (item: Declared) => boolean {
  const known = new Map<Declared['conditions'], boolean>();
  return (item) => {
    if (item.conditions.length === 0 || item.stateful) return appliesIn(item, width, variant);
    const answer = known.get(item.conditions) ?? appliesIn(item, width, variant);
    known.set(item.conditions, answer);
    return answer;
  };
}

/** What an author declares that the compiler does not know, for elements in which layout is switched off. */
function unknownStyle(declared: readonly Declared[], state: WidthState | undefined, variant: Variant | null): Style {
  const result = new Map<string, string>();
  if (state === undefined) return result;
  const width = state.maxWidth ?? state.minWidth;
  const own = declared.filter((item) => item.origin === 'author' || item.origin === 'style-attribute');
  for (const { declaration } of own.filter((item) => appliesIn(item, width, variant)).sort(compareCascade)) {
    const { property, value } = declaration;
    const isKnown = expandShorthand(property, value).some(([longhand]) => properties.has(longhand));
    if (!isKnown && !property.startsWith('--') && !value.includes('var(')) result.set(property, value);
  }
  return result;
}

/** What of no shown element tables can carry. What never shows may say what it likes. */
function reportUnsupported(
  index: ElementIndex,
  declared: readonly Declared[][],
  isShown: (order: number) => boolean,
  report: Report,
): void {
  const seen = new Set<Declared['declaration']>();
  for (const candidate of index.elements) {
    if (standsInRaw(candidate) || !showsAnywhere(candidate, isShown)) continue;
    for (const { declaration, origin, selector, stateful } of declared[candidate.order] ?? []) {
      if (origin === 'browser' || origin === 'attribute-hint' || seen.has(declaration)) continue;
      seen.add(declaration);
      const { property, value } = declaration;
      if (holdsTag(property + value) || property === '') {
        reportFilledIn(declaration, report);
        continue;
      }
      const judged =
        stateful && !isOwnHover(selector)
          ? { verdict: 'refused', advice: layoutAdvice.ownHover }
          : judgeDeclaration(property, value, candidate.node.tag);
      const data = { property, value, selector: selector === '' ? `style of <${candidate.node.tag}>` : selector };
      if (judged?.verdict === 'refused')
        report(finding('css-unsupported', declaration.place, { ...data, advice: judged.advice }));
      else if (judged !== null) report(finding('css-decoration-lost', declaration.place, data));
    }
  }
}

function showsAnywhere(candidate: IndexedElement, isShown: (order: number) => boolean): boolean {
  for (let at: IndexedElement | null = candidate; at !== null && at.node.tag !== 'html'; at = at.parent)
    if (!isShown(at.order)) return false;
  return true;
}

/** Colours may be filled in; what decides on sizes must be known when the message is compiled. */
function reportFilledIn({ property, place }: Declared['declaration'], report: Report): void {
  if (/^(?:color|background|background-color)$/.test(property)) return;
  report(finding('css-filled-in', place, { declaration: place.source.slice(place.span) }));
}

/** What is wrong with rules whether or not they match: values that no browser takes, parts of elements that get no style. */
function reportRules(rules: readonly StyleRule[], report: Report): void {
  for (const { selectors, declarations, place } of rules) {
    const other = selectors.find(
      ({ pseudoElement }) => pseudoElement !== null && !/^::(?:before|after)$/.test(pseudoElement),
    );
    if (other !== undefined)
      report(finding('css-decoration-lost', place, { property: other.pseudoElement ?? '', selector: other.text }));
    for (const { property, value, place: at } of declarations) {
      if (/var\(/i.test(value) || judgeValue(property, value, holdsTag(property + value)) !== 'invalid') continue;
      report(finding('css-ignored', at, { detail: cssDetail.noValueOf(value, property) }));
    }
  }
}

interface Page {
  /** The body's own styles; its content is the table. */
  readonly body: OutElement;
  readonly table: OutElement;
}

/** The body's margin and padding become the padding of one cell as wide as the window. */
function emitPage(body: IndexedElement, width: number, context: EmitContext): Page {
  const box = readBox(body, context);
  const bounded = childrenOf(box).some(
    (child) =>
      pixelsOf(styleIn(child, 0).get('max-width')) !== null || pixelsOf(styleIn(child, 0).get('width')) !== null,
  );
  const available = (viewport: number): number => (viewport === DESKTOP_VIEWPORT && !bounded ? width : viewport);
  const room: Room = {
    ...context,
    make: { cell: emitCell, table: emitBoxTable },
    text: null,
    widthAt: (viewport, state) => available(viewport) - sideSpace(box, state, 'left') - sideSpace(box, state, 'right'),
  };
  const content = emitFlow([...childrenOf(box)], box, room, (state) => closedSides(box, state));
  const spacings = forStates(context, (state) =>
    collapseMargins([box], state, { top: true, bottom: true }, () => true),
  );
  const background = forStates(context, (state) => box.styles[state]?.get('background-color') ?? 'transparent');
  const painted = background.some((color) => color !== 'transparent');
  const cellStyles = forStates(context, (state) => {
    const top = (spacings[state]?.above.get(box) ?? 0) + edgeIn(box, state, 'top') + (content.before[state] ?? 0);
    const bottom = (spacings[state]?.below ?? 0) + edgeIn(box, state, 'bottom') + (content.after[state] ?? 0);
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

function childrenOf(box: Box): readonly Box[] {
  return box.kind === 'flow' ? box.children : [box];
}

function sideSpace(box: Box, state: number, side: string): number {
  return lengthIn(box, state, `margin-${side}`) + edgeIn(box, state, side);
}
