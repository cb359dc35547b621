import { appliesIn, type Variant } from './boxes/variants.js';
import type { Box } from './boxes/boxes.js';
import type { WidthState } from './boxes/states.js';
import { inState } from './boxes/box-in-state.js';
import { problemIn, reportProblems } from './content/problems.js';
import type { EmitContext } from './content/room.js';
import { compareCascade, type Declared } from '../css/cascade/cascade.js';
import type { ComputedStyle } from '../css/cascade/computed-style.js';
import type { IndexedElement } from '../css/selectors/element-index.js';
import { properties } from '../css/values/properties.js';
import { expandShorthand } from '../css/values/shorthands.js';
import { finding, type Report } from '../findings/finding.js';
import { attribute } from '../html/tree.js';
import { drawnPath, type PictureDrawing } from '../pictures/drawing.js';
import type { LayoutInput } from './layout-input.js';
import { emitPage, type Page } from './page.js';
import { addVariant, mergeVariant } from './print/merge-variant.js';
import type { Style } from './print/output.js';
import { partRules, withLineHeight } from './print/parts.js';
import type { StyledDocument } from './styled-document.js';

/** A document as tables, and what they ask of its pictures. */
export interface EmittedDocument {
  readonly page: Page;
  /** How wide pictures are shown at most, in px, by the paths that the tables give; null where that is not known. */
  readonly pictureWidths: ReadonlyMap<string, number | null>;
  /** Pictures that are to be drawn from others, by the paths that the tables give them. */
  readonly drawings: ReadonlyMap<string, PictureDrawing>;
}

/**
 * Emits a document as tables: once for usual circumstances, and once for each variant, whose tree is laid over the first.
 * @param plain told what goes wrong under usual circumstances; variants are told where they cannot be laid over them
 */
export function emitDocument(
  body: IndexedElement,
  styled: StyledDocument,
  input: LayoutInput,
  { plain, report }: { readonly plain: Report; readonly report: Report },
): EmittedDocument {
  const pictureWidths = new Map<string, number | null>();
  const drawings = new Map<string, PictureDrawing>();
  const shared: SharedContext = {
    ...sharedContext(styled, input),
    pictureShown: (path, width) => {
      const known = pictureWidths.get(path);
      pictureWidths.set(path, width === null || known === null ? null : Math.max(width, known ?? 0));
    },
    drawPicture: input.drawsPictures ? (drawing) => void drawings.set(drawnPath(drawing), drawing) : null,
  };
  const page = emitPage(body, input.width, contextOf(0, styled, shared, plain));
  styled.variants.forEach((variant, number) => {
    const context = contextOf(number + 1, styled, shared, () => undefined);
    addVariantTo(page, emitPage(body, input.width, context), variant, report);
  });
  return { page, pictureWidths, drawings };
}

type SharedContext = Omit<EmitContext, 'styles' | 'restyle' | 'refuse' | 'unknownStyle' | 'partsOf' | 'report'> & {
  readonly parts: ReturnType<typeof partRules>;
};

/** What emitters know of a document in all circumstances. */
function sharedContext(
  { index, states, shown }: StyledDocument,
  { doc, rules, pictureSize }: LayoutInput,
): Omit<SharedContext, 'pictureShown' | 'drawPicture'> {
  const linkedIds = new Set(
    index.elements.flatMap(({ node }) => /^#(.+)/.exec(attribute(node, 'href') ?? '')?.[1] ?? []),
  );
  return {
    ...{ doc, states, linkedIds, pictureSize },
    lookup: (node) => (node.kind === 'element' ? (index.of.get(node) ?? null) : null),
    shownDisplay: ({ order }) => shown[order] ?? null,
    parts: partRules(index, rules),
  };
}

/** What emitters know of it in some circumstances. */
function contextOf(
  set: number,
  { declared, states, variants, styleSets }: StyledDocument,
  { parts, ...shared }: SharedContext,
  report: Report,
): EmitContext {
  const styles = styleSets[set] ?? [];
  const restyled = new Map<IndexedElement, readonly ComputedStyle[]>();
  const context: EmitContext = {
    ...shared,
    styles: (candidate) => restyled.get(candidate) ?? styles.map((ofState) => ofState[candidate.order] ?? fail()),
    restyle: (candidate, other) => void restyled.set(candidate, other),
    refuse: (candidate, property, advice) => {
      const box: Box = { kind: 'flow', element: candidate, styles: context.styles(candidate), children: [] };
      const state = box.styles.findIndex((style) => style.declaredBy(property) !== null);
      reportProblems([problemIn(inState(box, Math.max(0, state)), property, advice)], context);
    },
    unknownStyle: ({ order }, state) => unknownStyle(declared[order] ?? [], states[state], variants[set - 1] ?? null),
    partsOf: (candidate) =>
      withLineHeight(parts.get(candidate.order) ?? [], context.styles(candidate)[0]?.get('line-height') ?? ''),
    report,
  };
  return context;
}

/** Where other circumstances build other tables, styles alone cannot say the difference. */
function addVariantTo(page: Page, other: Page, variant: Variant, report: Report): void {
  addVariant(page.body, other.body.styles);
  if (mergeVariant([page.table], [other.table])) return;
  const condition = [...variant.conditions, ...(variant.hover ? [':hover'] : [])].join(' and ');
  report(finding('css-condition-layout', variant.place, { condition }));
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

function fail(): never {
  throw new Error('An element has no computed style.');
}
