import { cssDetail } from '../../findings/wording/css.js';
import { finding, type Place, type Report } from '../../findings/finding.js';
import type { SourceText } from '../../text/source-text.js';
import type { Span } from '../../text/span.js';
import { Scope } from '../selectors/scope.js';
import { compileSelectorList } from '../selectors/selector.js';
import type { Selector, SelectorContext } from '../selectors/part.js';
import type { SelectorSetting } from '../syntax/tagged-values.js';
import type { AtRule, CssItem, Declaration, RawRule } from '../syntax/css-items.js';

/** A condition that a rule stands under: the document alone does not decide it. */
export interface Condition {
  readonly kind: string;
  readonly text: string;
  readonly place: Place;
}

/** A rule with its selectors read and its surroundings resolved. */
export interface StyleRule {
  readonly selectors: readonly Selector[];
  readonly declarations: readonly Declaration[];
  /** From the outermost to the innermost. */
  readonly conditions: readonly Condition[];
  /** Its cascade layer; null outside any layer. */
  readonly layer: Layer | null;
  /** The scope that bounds what it matches; null outside `@scope`. */
  readonly scope: Scope | null;
  /** The at-rules around it, outermost first. */
  readonly atRules: readonly AtRule[];
  /** The rule that it was written in, outermost if nested. */
  readonly outer: RawRule;
  readonly sheet: SheetSource;
  /** Place in the order of appearance over all sheets. */
  readonly order: number;
  readonly place: Place;
}

/** A cascade layer (CSS Cascading Level 5, 6.4.4). `rank` grows with strength and is set once all sheets are read. */
export interface Layer {
  readonly name: string;
  rank: number;
}

/** One style sheet, read into items, with what it stands under (`media` of its element). */
export interface SheetSource {
  readonly source: SourceText;
  /** The text that was parsed: the source's, with template tags masked. */
  readonly text: string;
  readonly items: readonly CssItem[];
  readonly conditions: readonly Condition[];
  /** What relative addresses count from, seen from the document; nothing for its own sheets. */
  readonly base?: string;
}

interface Surroundings {
  readonly sheet: SheetSource;
  readonly conditions: readonly Condition[];
  readonly layer: LayerNode | null;
  readonly scope: Scope | null;
  readonly atRules: readonly AtRule[];
  readonly outer: RawRule | null;
  readonly selectors: SelectorContext;
  readonly nested: boolean;
}

interface LayerNode extends Layer {
  readonly children: LayerNode[];
}

/**
 * Turns sheets into one list of rules in order of appearance. At-rules that hold no style rules are left out;
 * a selector list that cannot be read voids its rule, which is reported.
 * @param isAskedFor rules that say nothing of such a property may be left out, unread
 */
export function collectRules(
  sheets: readonly SheetSource[],
  setting: SelectorSetting,
  report: Report,
  isAskedFor: (property: string) => boolean = () => true,
): StyleRule[] {
  const collector = new RuleCollector(report, isAskedFor);
  for (const sheet of sheets) {
    const selectors: SelectorContext = {
      ...setting,
      nesting: null,
      relativeToNesting: false,
      takesCombinator: false,
      scopeRoot: null,
    };
    const none = { layer: null, scope: null, atRules: [], outer: null, nested: false } as const;
    collector.items(sheet.items, { ...none, sheet, conditions: sheet.conditions, selectors });
  }
  collector.rankLayers();
  return collector.rules;
}

class RuleCollector {
  readonly rules: StyleRule[] = [];
  readonly #layers: LayerNode = { name: '', rank: 0, children: [] };

  constructor(
    private readonly report: Report,
    private readonly isAskedFor: (property: string) => boolean,
  ) {}

  items(items: readonly CssItem[], around: Surroundings): void {
    for (const item of items) {
      if (item.kind === 'rule') this.rule(item, around);
      else if (item.kind === 'at-rule') this.atRule(item, around, null);
    }
  }

  private rule(rule: RawRule, around: Surroundings): void {
    const isLeftOut = (item: CssItem): boolean => item.kind === 'declaration' && !this.isAskedFor(item.property);
    if (rule.items.length > 0 && rule.items.every(isLeftOut)) return;
    const relative = around.nested || around.scope !== null;
    const context = { ...around.selectors, relativeToNesting: relative, takesCombinator: relative };
    const selectors = compileSelectorList(textOf(around.sheet, rule.prelude), context);
    if (selectors === null) {
      const place = { source: around.sheet.source, span: rule.prelude };
      this.report(finding('css-ignored', place, { detail: cssDetail.unknownSelector }));
      return;
    }
    this.nestedItems(rule.items, selectors, rule.place, { ...around, outer: around.outer ?? rule });
  }

  /** Declarations between nested rules count where they stand (CSS Nesting 1, 4). */
  private nestedItems(
    items: readonly CssItem[],
    selectors: readonly Selector[],
    place: Place,
    around: Surroundings,
  ): void {
    let pending: Declaration[] = [];
    const flush = (): void => {
      if (pending.length > 0) this.push(selectors, pending, place, around);
      pending = [];
    };
    const inner: Surroundings = { ...around, nested: true, selectors: { ...around.selectors, nesting: selectors } };
    for (const item of items) {
      if (item.kind === 'declaration') {
        pending.push(item);
        continue;
      }
      flush();
      if (item.kind === 'rule') this.rule(item, inner);
      else this.atRule(item, inner, selectors);
    }
    flush();
  }

  private push(
    selectors: readonly Selector[],
    declarations: readonly Declaration[],
    place: Place,
    around: Surroundings,
  ): void {
    const { sheet, conditions, layer, scope, atRules, outer } = around;
    if (outer === null) throw new Error('A declaration stands in no rule.');
    this.rules.push({
      selectors,
      declarations,
      conditions,
      layer,
      scope,
      atRules,
      outer,
      sheet,
      order: this.rules.length,
      place,
    });
  }

  /** @param selectors those of the rule around, whose declarations may stand in the at-rule directly */
  private atRule(rule: AtRule, around: Surroundings, selectors: readonly Selector[] | null): void {
    const inner = this.surroundingsWithin(rule, around);
    if (inner === null || rule.items === null) return;
    const within = { ...inner, atRules: [...around.atRules, rule] };
    if (selectors === null) this.items(rule.items, within);
    else this.nestedItems(rule.items, selectors, rule.place, within);
  }

  private surroundingsWithin(rule: AtRule, around: Surroundings): Surroundings | null {
    const prelude = textOf(around.sheet, rule.prelude);
    switch (rule.name) {
      case 'layer':
        return this.layerWithin(rule, prelude, around);
      case 'media':
      case 'supports':
      case 'container':
      case 'starting-style':
        return conditional(rule, prelude, around);
      case 'scope': {
        const scope = Scope.read(prelude, around.selectors);
        if (scope === null) return conditional(rule, prelude, around);
        return {
          ...around,
          scope,
          nested: false,
          selectors: { ...around.selectors, nesting: null, scopeRoot: scope.isAnchor },
        };
      }
      default:
        if (!otherAtRules.has(rule.name.replace(/^-[a-z]+-/, ''))) {
          const detail = cssDetail.noAtRule(rule.name);
          this.report(finding('css-ignored', rule.place, { detail }));
        }
        return null;
    }
  }

  private layerWithin(rule: AtRule, prelude: string, around: Surroundings): Surroundings | null {
    const parent = around.layer ?? this.#layers;
    const names = prelude.split(',').map((name) => name.trim());
    if (around.conditions.length > 0 && names.some((name) => !hasLayer(parent, name))) {
      const place = { source: around.sheet.source, span: rule.place.span };
      this.report(finding('layer-conditional', place, { name: names.find((name) => !hasLayer(parent, name)) ?? '' }));
    }
    if (rule.items === null) {
      for (const name of names) if (name !== '') layerAt(parent, name);
      return null;
    }
    return { ...around, layer: layerAt(parent, names[0] ?? '') };
  }

  /** Layers are stronger the later they first appear; a layer is stronger than the layers within it. */
  rankLayers(): void {
    let rank = 0;
    const visit = (node: LayerNode): void => {
      node.children.forEach(visit);
      node.rank = rank;
      rank += 1;
    };
    visit(this.#layers);
  }
}

/** At-rules that hold no style rules: they stay where they are. */
const otherAtRules: ReadonlySet<string> = new Set(
  (
    'charset import namespace font-face font-feature-values font-palette-values keyframes page property counter-style ' +
    'color-profile viewport document view-transition position-try function'
  ).split(' '),
);

function conditional(rule: AtRule, prelude: string, around: Surroundings): Surroundings {
  const condition: Condition = {
    kind: rule.name,
    text: prelude,
    place: { source: around.sheet.source, span: rule.place.span },
  };
  return { ...around, conditions: [...around.conditions, condition] };
}

function textOf(sheet: SheetSource, span: Span): string {
  return sheet.text.slice(span.start, span.end);
}

function hasLayer(parent: LayerNode, dotted: string): boolean {
  let at: LayerNode | undefined = parent;
  for (const name of dotted.split('.')) at = at?.children.find((child) => child.name === name.trim());
  return at !== undefined && dotted !== '';
}

function layerAt(parent: LayerNode, dotted: string): LayerNode {
  let at = parent;
  for (const name of dotted === '' ? [''] : dotted.split('.').map((part) => part.trim())) {
    // A layer without a name is a new one each time.
    const known = name === '' ? undefined : at.children.find((child) => child.name === name);
    const node: LayerNode = known ?? { name, rank: 0, children: [] };
    if (known === undefined) at.children.push(node);
    at = node;
  }
  return at;
}
