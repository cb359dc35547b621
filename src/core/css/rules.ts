import { finding, type Place, type Report } from '../finding.js';
import type { SourceText } from '../text/source-text.js';
import { compileSelectorList, type Selector, type SelectorContext } from './selector.js';
import type { AtRule, CssItem, Declaration, RawRule } from './syntax.js';

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
  readonly items: readonly CssItem[];
  readonly conditions: readonly Condition[];
}

interface Surroundings {
  readonly conditions: readonly Condition[];
  readonly layer: LayerNode | null;
  readonly selectors: SelectorContext;
  readonly nested: boolean;
}

interface LayerNode extends Layer {
  readonly children: LayerNode[];
}

/**
 * Turns sheets into one list of rules in order of appearance. At-rules that hold no style rules are left out;
 * a selector list that cannot be read voids its rule, which is reported.
 */
export function collectRules(sheets: readonly SheetSource[], quirks: boolean, report: Report): StyleRule[] {
  const collector = new RuleCollector(report);
  for (const sheet of sheets) {
    const selectors: SelectorContext = { quirks, nesting: null, relativeToNesting: false, scopeRoot: null };
    collector.items(sheet.source, sheet.items, { conditions: sheet.conditions, layer: null, selectors, nested: false });
  }
  collector.rankLayers();
  return collector.rules;
}

class RuleCollector {
  readonly rules: StyleRule[] = [];
  readonly #layers: LayerNode = { name: '', rank: 0, children: [] };

  constructor(private readonly report: Report) {}

  items(source: SourceText, items: readonly CssItem[], around: Surroundings): void {
    for (const item of items) {
      if (item.kind === 'rule') this.rule(source, item, around);
      else if (item.kind === 'at-rule') this.atRule(source, item, around);
    }
  }

  private rule(source: SourceText, rule: RawRule, around: Surroundings): void {
    const context = { ...around.selectors, relativeToNesting: around.nested };
    const selectors = compileSelectorList(source.slice(rule.prelude), context);
    if (selectors === null) {
      const place = { source, span: rule.prelude };
      this.report(
        finding('css-syntax', place, { detail: 'a browser does not know this selector, so it leaves the rule out' }),
      );
      return;
    }
    this.nestedItems(source, rule.items, selectors, rule.place, around);
  }

  /** Declarations between nested rules count where they stand (CSS Nesting 1, 4). */
  private nestedItems(
    source: SourceText,
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
      if (item.kind === 'rule') this.rule(source, item, inner);
      else this.atRule(source, item, inner, selectors);
    }
    flush();
  }

  private push(
    selectors: readonly Selector[],
    declarations: readonly Declaration[],
    place: Place,
    around: Surroundings,
  ): void {
    this.rules.push({
      selectors,
      declarations,
      conditions: around.conditions,
      layer: around.layer,
      order: this.rules.length,
      place,
    });
  }

  private atRule(
    source: SourceText,
    rule: AtRule,
    around: Surroundings,
    selectors: readonly Selector[] | null = null,
  ): void {
    const prelude = source.slice(rule.prelude);
    const inner = this.surroundingsWithin(source, rule, prelude, around);
    if (inner === null || rule.items === null) return;
    if (selectors === null) this.items(source, rule.items, inner);
    else this.nestedItems(source, rule.items, selectors, rule.place, inner);
  }

  private surroundingsWithin(
    source: SourceText,
    rule: AtRule,
    prelude: string,
    around: Surroundings,
  ): Surroundings | null {
    switch (rule.name) {
      case 'layer':
        return this.layerWithin(rule, prelude, around);
      case 'media':
      case 'supports':
      case 'container':
      case 'starting-style': {
        const condition: Condition = { kind: rule.name, text: prelude, place: { source, span: rule.place.span } };
        return { ...around, conditions: [...around.conditions, condition] };
      }
      default:
        return null;
    }
  }

  private layerWithin(rule: AtRule, prelude: string, around: Surroundings): Surroundings | null {
    const parent = around.layer ?? this.#layers;
    const names = prelude.split(',').map((name) => name.trim());
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
