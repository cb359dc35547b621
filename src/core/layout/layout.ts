import { htmlDetail } from '../findings/wording/html.js';
import { compareCascade, type Declared } from '../css/cascade/cascade.js';
import type { ComputedStyle } from '../css/cascade/computed-style.js';
import { indexElements, type ElementIndex, type IndexedElement } from '../css/selectors/element-index.js';
import { declarationsOf } from '../css/cascade/document-cascade.js';
import type { StyleRule } from '../css/cascade/rules.js';
import { properties } from '../css/values/properties.js';
import { expandShorthand } from '../css/values/shorthands.js';
import { finding, watched, type Place, type Report } from '../findings/finding.js';
import { attribute, firstElement, type Doc } from '../html/tree.js';
import { drawnPath, type PictureDrawing } from '../pictures/drawing.js';
import { type Box } from './boxes/boxes.js';
import { withCanvasOnBody } from './boxes/canvas.js';
import { ClassBook } from './print/classes.js';
import { checkFonts, completeStack, usedFonts, type WebFont } from './boxes/fonts.js';
import { type EmitContext, type PictureSize } from './content/room.js';
import { problemIn, reportProblems } from './content/problems.js';
import { type Style } from './print/output.js';
import { partRules, withLineHeight } from './print/parts.js';
import { printNodes, printStyle, type Writer } from './print/print.js';
import { viewTree, type TreeView, type ViewWriter } from './print/view.js';
import { fillGeneratedBoxes, withGeneratedBoxes } from './generated.js';
import { fluidThresholds } from './fluid.js';
import { reportLengths } from './account/lengths.js';
import { statesBetween, type WidthState } from './boxes/states.js';
import { addVariant, mergeVariant } from './print/merge-variant.js';
import { appliesIn, isDark, variantsOf, type Variant } from './boxes/variants.js';
import { conditionThresholds, columnThresholds, stylesInStates } from './styles-in-states.js';
import { reportRules, reportUnsupported } from './account/report-styles.js';
import { type Page, emitPage } from './page.js';
import { appliesTo } from './account/applies.js';
import type { End } from './account/matrix.js';
import { declarationEnds, reportUntaken } from './account/unaccounted.js';

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
  /** Whether pictures can be drawn from others: cropped, for `object-fit`. */
  readonly drawsPictures: boolean;
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
  /** Pictures that are to be drawn from others, by the paths that the body gives them. */
  readonly drawings: ReadonlyMap<string, PictureDrawing>;
  /** How each declaration of the author ended. */
  readonly declarationEnds: () => ReadonlyMap<Declared['declaration'], End>;
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
  const hasDarkScheme = variants.some(isDark);
  const styleSets = fillGeneratedBoxes(generated, computed, report).map((ofStates) =>
    ofStates.map((styles) => withCanvasOnBody(index, styles, hasDarkScheme)),
  );
  const shown = shownDisplays(index, styleSets.flat());
  const ends = new Map<Place, End>();
  const checked = watched((item) => {
    const end = item.code === 'css-decoration-lost' ? 'left out' : 'refused';
    if (item.place !== null) ends.set(item.place, end);
    report(item);
  });
  const isShown = (order: number): boolean => shown[order] !== null;
  const allStates = styleSets.flat();
  const applies = (property: string, candidate: IndexedElement): boolean =>
    allStates.some((styles) => {
      const style = styles[candidate.order];
      const around = candidate.parent === null ? null : (styles[candidate.parent.order] ?? null);
      return style === undefined || appliesTo(property, candidate, style, around);
    });
  reportUnsupported(index, declared, { isShown, applies }, checked.report);
  for (const styles of styleSets) reportLengths(index, styles, isShown, checked.report);
  const pictureWidths = new Map<string, number | null>();
  const pictureShown: EmitContext['pictureShown'] = (path, width) => {
    const known = pictureWidths.get(path);
    pictureWidths.set(path, width === null || known === null ? null : Math.max(width, known ?? 0));
  };
  const drawings = new Map<string, PictureDrawing>();
  const parts = partRules(plain, input.rules);
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
      partsOf: (candidate) =>
        withLineHeight(parts.get(candidate.order) ?? [], context.styles(candidate)[0]?.get('line-height') ?? ''),
      pictureSize: input.pictureSize,
      pictureShown,
      drawPicture: input.drawsPictures ? (drawing) => void drawings.set(drawnPath(drawing), drawing) : null,
      report: to,
    };
    return emitPage(bodyElement, input.width, context);
  };
  const page = emit(0, checked.report);
  variants.forEach((variant, number) =>
    addVariantTo(
      page,
      emit(number + 1, () => undefined),
      variant,
      report,
    ),
  );
  if (!checked.hasFailed()) for (const styles of styleSets) reportUntaken(index, styles, report);
  const fonts = usedFonts(declared, input.fonts);
  const stacks = styleSets.flat(2).map((style) => style.get('font-family'));
  return {
    fonts,
    fontStacks: [...new Set(stacks)],
    pictureWidths,
    drawings,
    thresholds: [...new Set(changes)],
    exactWidths: fluid,
    hasDarkScheme,
    declarationEnds: () => declarationEnds(index, declared, allStates, ends),
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
