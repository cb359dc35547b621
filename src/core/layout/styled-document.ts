import type { Declared } from '../css/cascade/cascade.js';
import type { ComputedStyle } from '../css/cascade/computed-style.js';
import { declarationsOf, type DeclaredByOrder } from '../css/cascade/document-cascade.js';
import type { ElementIndex } from '../css/selectors/element-index.js';
import type { Report } from '../findings/finding.js';
import { withCanvasOnBody } from './used/canvas.js';
import { checkFonts, completeStack, type WebFont } from './boxes/fonts.js';
import { statesBetween, type WidthState } from './boxes/states.js';
import { isDark, variantsOf, type Variant } from './boxes/variants.js';
import { fluidThresholds } from './fluid.js';
import { fillGeneratedBoxes, withGeneratedBoxes } from './generated.js';
import type { LayoutInput } from './layout-input.js';
import { columnThresholds, conditionThresholds, stylesInStates } from './styles-in-states.js';

/** A document whose styles are computed: in each state, under usual circumstances and in each variant. */
export interface StyledDocument {
  /** What applies to each element that its authors wrote, weakest first. */
  readonly written: DeclaredByOrder;
  /** Its elements, with those that rules generate. */
  readonly index: ElementIndex;
  /** What applies to each element, weakest first. */
  readonly declared: DeclaredByOrder;
  readonly states: readonly WidthState[];
  readonly variants: readonly Variant[];
  /** The styles of all elements, first under usual circumstances, then in each variant; in each of them by state. */
  readonly styleSets: readonly (readonly (readonly ComputedStyle[])[])[];
  /** How each element displays where it does; null for one that never shows. */
  readonly shown: readonly (string | null)[];
  /** The widths of the window, in px, up to which another layout holds than above them. */
  readonly thresholds: readonly number[];
  /** Where lengths follow the window, the widths of the window at which they are exact. */
  readonly exactWidths: readonly number[];
  readonly hasDarkScheme: boolean;
}

/** Computes the styles of a document in all states and circumstances that its rules ask for. */
export function styleDocument(
  plain: ElementIndex,
  { rules, fonts, onlyViewport }: Pick<LayoutInput, 'rules' | 'fonts' | 'onlyViewport'>,
  report: Report,
): StyledDocument {
  const written = declarationsOf(plain, rules, report);
  const generated = withGeneratedBoxes(plain, written, rules);
  const { index } = generated;
  const declared = withWholeStacks(generated.declared, fonts);
  checkFonts(declared, fonts, report);
  const asked = conditionThresholds(rules, report);
  const changes = [...asked, ...columnThresholds(index, declared, asked)];
  const fluid = fluidThresholds(declared, changes);
  const states = statesBetween([...changes, ...fluid]).filter(
    ({ minWidth, maxWidth }) =>
      onlyViewport === undefined || (minWidth <= onlyViewport && onlyViewport <= (maxWidth ?? Infinity)),
  );
  const variants = onlyViewport === undefined ? variantsOf(declared) : [];
  const computed = [null, ...variants].map((variant) =>
    stylesInStates(index, declared, states, variant, variant === null ? report : () => undefined),
  );
  const hasDarkScheme = variants.some(isDark);
  const styleSets = fillGeneratedBoxes(generated, computed, report).map((ofStates) =>
    ofStates.map((styles) => withCanvasOnBody(index, styles, hasDarkScheme)),
  );
  const shown = shownDisplays(index, styleSets.flat());
  const thresholds = [...new Set(changes)];
  return {
    ...{ written, index, declared, states, variants, styleSets, shown },
    ...{ thresholds, exactWidths: fluid, hasDarkScheme },
  };
}

/** How each element displays where it does. */
function shownDisplays(index: ElementIndex, styles: readonly (readonly ComputedStyle[])[]): (string | null)[] {
  return index.elements.map(
    ({ order }) =>
      styles.map((ofState) => ofState[order]?.get('display') ?? 'none').find((display) => display !== 'none') ?? null,
  );
}

/** A web font that an author names alone gets its fallbacks. Lists that elements share stay shared. */
function withWholeStacks(declared: DeclaredByOrder, fonts: readonly WebFont[]): DeclaredByOrder {
  if (fonts.length === 0) return declared;
  const known = new Map<readonly Declared[], readonly Declared[]>();
  return declared.map((list) => {
    const whole = known.get(list) ?? list.map((item) => withWholeStack(item, fonts));
    known.set(list, whole);
    return whole;
  });
}

function withWholeStack(item: Declared, fonts: readonly WebFont[]): Declared {
  const { declaration } = item;
  if (!/^font(?:-family)?$/.test(declaration.property)) return item;
  const value = completeStack(declaration.property, declaration.value, fonts);
  return value === declaration.value ? item : { ...item, declaration: { ...declaration, value } };
}
