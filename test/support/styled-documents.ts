import { grammarProperties, grammarValue } from './grammar-values.js';
import { Random } from './random.js';
import {
  attributeSelectors,
  classNames,
  conditions,
  customProperties,
  declarations,
  layerOrders,
  presentational,
  pseudoClasses,
  standaloneRules,
  taggedDeclarations,
  taggedSelectors,
  statePattern,
  templateTags,
  typeSelectors,
} from './style-vocabulary.js';

/** A document that fights over styles, and what only its unconditional rules would be. */
export interface StyledDocument {
  readonly html: string;
  /** Linked style sheets, by the name that the document gives them. */
  readonly linked: ReadonlyMap<string, string>;
  /** The same document with nothing but its unconditional rules. */
  readonly unconditional: string;
  /** False where the parser adds elements without tags, whose styles can only stay in the head. */
  readonly strippable: boolean;
}

interface Selector {
  readonly text: string;
  readonly conditional: boolean;
}

interface Rule {
  readonly selectors: readonly Selector[];
  readonly declarations: readonly string[];
  readonly nested: readonly Rule[];
  /** At-rules around, outermost first; conditional ones are marked. */
  readonly around: readonly { readonly text: string; readonly conditional: boolean }[];
}

interface Sheet {
  readonly kind: 'plain' | 'media' | 'kept' | 'linked' | 'linked-media';
  readonly prelude: string;
  readonly rules: readonly Rule[];
  /** Rules without a style of their own, which stand between the others. */
  readonly standalone: readonly string[];
}

/** Makes a document from a seed. */
export function styledDocument(seed: number): StyledDocument {
  return new Maker(seed).document();
}

class Maker {
  #ids = 0;
  #addsElements = false;
  readonly #usesLayers: boolean;
  /** Few properties, so that declarations meet: one family of the grammar's, with prefixes and shorthands. */
  readonly #family: readonly string[];
  readonly #tagged: (typeof taggedSelectors)[number] | null;
  readonly random: Random;

  constructor(private readonly seed: number) {
    this.random = new Random(seed);
    this.#usesLayers = this.random.chance(0.25);
    this.#family = familyOf(this.random.pick(grammarProperties));
    this.#tagged = this.random.chance(0.3) ? this.random.pick(taggedSelectors) : null;
  }

  document(): StyledDocument {
    const { random } = this;
    const bodyTag = `${random.chance(0.1) ? '<BODY' : '<body'}${this.attributes('body')}>`;
    const body = this.children(0, 3);
    const sheets = Array.from({ length: random.between(1, 4) }, (_, index) => this.sheet(index === 0));
    const doctype = random.pick(['<!doctype html>\n', '<!doctype html>\r\n', '<!DOCTYPE HTML>', '']);
    const page = (head: string): string =>
      `${doctype}<html lang="en">\n<head><title>t</title>\n${head}</head>\n${bodyTag}${body}</body></html>\n`;
    return {
      html: page(sheets.map((sheet, index) => printSheet(sheet, this.sheetName(index))).join('')),
      linked: new Map(
        sheets.flatMap((sheet, index) =>
          sheet.kind.startsWith('linked') ? [[this.sheetName(index), sheetText(sheet)] as const] : [],
        ),
      ),
      unconditional: page(sheets.map((sheet) => `<style>${unconditionalText(sheet)}</style>\n`).join('')),
      strippable: !this.#addsElements,
    };
  }

  /** No two documents link the same name: the browser would take the other's from its cache. */
  private sheetName(index: number): string {
    return `sheet-${this.seed}-${index + 1}.css`;
  }

  private sheet(first: boolean): Sheet {
    const { random } = this;
    // The order of layers is fixed first: one that depends on a condition is reported, not kept.
    const kind =
      first && this.#usesLayers
        ? random.pick(['plain', 'linked'] as const)
        : random.pick([
            'plain',
            'plain',
            'plain',
            'plain',
            'plain',
            'media',
            'kept',
            'linked',
            'linked-media',
          ] as const);
    return {
      kind,
      prelude: this.#usesLayers && first ? `@layer ${random.pick(layerOrders)};\n` : '',
      rules: Array.from({ length: random.between(2, 8) }, () => this.rule(0)),
      standalone: random.chance(0.3) ? [random.pick(standaloneRules)] : [],
    };
  }

  private rule(depth: number): Rule {
    const { random } = this;
    const around: { text: string; conditional: boolean }[] = [];
    if (depth === 0 && this.#usesLayers && random.chance(0.5))
      around.push({ text: `@layer ${random.pick(['one', 'two', 'one.inner'])}`, conditional: false });
    if (depth === 0 && random.chance(0.06)) around.push({ text: '@scope (.a) to (.e)', conditional: false });
    if (random.chance(depth === 0 ? 0.4 : 0.15)) around.push({ text: random.pick(conditions), conditional: true });
    if (around.length > 0 && random.chance(0.1)) around.push({ text: random.pick(conditions), conditional: true });
    const nested = depth === 0 && random.chance(0.12) ? [this.rule(1)] : [];
    const count = random.chance(0.2) ? 2 : 1;
    const selectors = Array.from({ length: count }, () => (depth > 0 ? this.nestedSelector() : this.selector()));
    const showsHead = selectors.some(({ text }) => text.includes('*') || text === '' || text.startsWith(':'));
    const own = this.declarations();
    return {
      selectors,
      // A style that shows the head, and with it the style sheets themselves, compares nothing.
      declarations: showsHead ? own.filter((text) => !/\b(?:display|all):/.test(text)) : own,
      nested,
      around,
    };
  }

  private nestedSelector(): Selector {
    const inner = this.compound();
    const text = this.random.pick([
      `& ${inner.text}`,
      `> ${inner.text}`,
      `&${this.random.pick(['.a', '.b', ':hover'])}`,
      `${inner.text} &`,
      inner.text,
    ]);
    return { text, conditional: statePattern.test(text) };
  }

  private selector(): Selector {
    if (this.random.chance(0.06))
      return { text: this.random.pick(['body', 'html body', ':root > body']), conditional: false };
    const parts = [this.compound()];
    while (this.random.chance(0.3) && parts.length < 3) parts.push(this.compound());
    const text = parts
      .map((part, index) => (index === 0 ? part.text : `${this.random.pick([' ', ' > ', ' + ', ' ~ '])}${part.text}`))
      .join('');
    return {
      text: text + (this.random.chance(0.04) ? this.random.pick(['::before', '::first-line']) : ''),
      conditional: parts.some((part) => part.conditional),
    };
  }

  private compound(): Selector {
    const { random } = this;
    const simple = random.pick([
      ...(this.#tagged === null ? [] : [this.#tagged.selector, this.#tagged.selector]),
      `.${random.pick(classNames)}`,
      `.${random.pick(classNames)}`,
      random.pick(typeSelectors),
      `#i${random.between(1, 6)}`,
      `.${random.pick(classNames)}.${random.pick(classNames)}`,
      '*',
      '.\\31 0',
      random.pick(attributeSelectors),
    ]);
    const pseudo = random.chance(0.4) ? random.pick(pseudoClasses) : '';
    return { text: simple + pseudo, conditional: statePattern.test(pseudo) };
  }

  private declarations(): string[] {
    const { random } = this;
    return Array.from({ length: random.between(1, 4) }, () => {
      if (random.chance(0.14)) return random.pick(customProperties);
      if (random.chance(0.08)) return random.pick(taggedDeclarations);
      if (random.chance(0.4)) {
        const name = random.pick(this.#family);
        const value = grammarValue(name, random);
        if (value !== null) return `${name}: ${value}${random.chance(0.18) ? ' !important' : ''}`;
      }
      const [property, choices] = random.pick(declarations);
      return `${property}: ${random.pick(choices)}${random.chance(0.18) ? ' !important' : ''}`;
    });
  }

  private attributes(tag = ''): string {
    const { random } = this;
    let text = '';
    if (random.chance(0.6)) {
      const names = `${random.pick(classNames)}${random.chance(0.3) ? ` ${random.pick([...classNames, '10'])}` : ''}`;
      text += random.pick([` class="${names}"`, ` class="${names}"`, ` CLASS='${names}'`, `\n  class = "${names}"`]);
    }
    if (random.chance(0.15) && this.#ids < 6) text += ` id="i${(this.#ids += 1)}"`;
    if (random.chance(0.12)) text += ` data-k="${random.pick(['x', 'y'])}"`;
    if (random.chance(0.06)) text += ' title="tip &amp; tap"';
    if (this.#tagged !== null && random.chance(0.2)) text += ` ${this.#tagged.attribute}`;
    if (random.chance(0.04)) text += ` title='${random.pick(templateTags)} "x"'`;
    if (random.chance(0.03)) text += ` ${random.pick(['{{more}}', '~~MORE~~'])}`;
    const hints = presentational[tag];
    if (hints !== undefined && random.chance(0.3)) text += random.pick(hints);
    if (random.chance(0.18)) {
      const style = this.declarations().filter((declaration) => !declaration.startsWith('--') || random.chance(0.5));
      // Quotes of the value as entities, as editors write them; not those in template tags.
      const value = style.join('; ').replace(/\{\{.*?\}\}|"/g, (part) => (part === '"' ? '&quot;' : part));
      text += ` style="${value}${random.pick(['', ';', ' ; '])}"`;
    }
    return text;
  }

  private children(depth: number, most: number): string {
    return Array.from({ length: this.random.between(1, most) }, () => this.element(depth)).join(
      this.random.pick(['', '\n', '\r\n', '<!-- note -->', '<!--[if mso]><b class="a">x</b><![endif]-->']),
    );
  }

  private element(depth: number): string {
    const { random } = this;
    if (depth > 3 || random.chance(0.2))
      return random.pick([
        'text &amp; more',
        random.pick(templateTags),
        `<b${this.attributes()}>bold</b>`,
        `<a href="#"${this.attributes('a')}>link</a>`,
        `<span${this.attributes()}></span>`,
        `<font color="green"${this.attributes()}>old</font>`,
        `<font${this.attributes('font')}>old</font>`,
        `<hr${this.attributes('hr')}>`,
        `<img src="data:," alt=""${this.attributes('img')}>`,
        '<br/>',
      ]);
    const kind = random.pick(['div', 'div', 'p', 'section', 'table', 'ul', 'ol', 'h1', 'P', 'DIV', 'center']);
    if (kind === 'table') return this.table(depth);
    if (kind === 'ul' || kind === 'ol') return this.list(kind, depth);
    if (kind.toLowerCase() === 'p' || kind === 'h1') {
      const inside = `<${kind}${this.attributes(kind)}>text <b${this.attributes()}>x</b>`;
      // An end tag that HTML lets an author leave out; the next block ends the paragraph.
      return kind === 'p' && random.chance(0.15) ? inside : `${inside}</${kind}>`;
    }
    return `<${kind}${this.attributes(kind)}>${this.children(depth + 1, 3)}</${kind}>`;
  }

  private list(kind: 'ul' | 'ol', depth: number): string {
    const end = this.random.chance(0.2) ? '' : '</li>';
    return `<${kind}${this.attributes(kind)}><li${this.attributes('li')}>${this.children(depth + 2, 2)}${end}<li${this.attributes()}>two${end}</${kind}>`;
  }

  private table(depth: number): string {
    const { random } = this;
    const implied = random.chance(0.25);
    if (implied) this.#addsElements = true;
    const between = random.chance(0.15) ? random.pick(templateTags) : '';
    const end = random.chance(0.15) ? '' : '</td>';
    const rows = `${between}<tr${this.attributes('tr')}><td${this.attributes('td')}>${this.children(depth + 2, 2)}${end}<td${this.attributes('td')}>2${end}</tr>${between}`;
    return `<table${this.attributes('table')}>${implied ? rows : `<tbody${this.attributes()}>${rows}</tbody>`}</table>`;
  }
}

/** The properties that begin like one, with their prefixed forms; some whose values move while one looks are left out. */
function familyOf(property: string): string[] {
  const stem = (name: string): string => name.replace(/^-[a-z]+-/, '').split('-')[0] ?? '';
  const family = grammarProperties.filter(
    (name) => stem(name) === stem(property) && !/transition|animation/.test(name),
  );
  const unknown = [`-moz-${stem(property)}-radius`, `x-${stem(property)}`];
  return [...family, ...family, ...unknown, property]
    .filter((name) => !/transition|animation/.test(name))
    .concat('all');
}

function sheetText(sheet: Sheet): string {
  return `${sheet.prelude}${[...sheet.rules.map((rule) => printRule(rule)), ...sheet.standalone].join('\n')}`;
}

function printSheet(sheet: Sheet, name: string): string {
  switch (sheet.kind) {
    case 'plain':
      return `<style>${sheetText(sheet)}</style>\n`;
    case 'media':
      return `<style media="(max-width: 600px)">${sheetText(sheet)}</style>\n`;
    case 'kept':
      return `<style data-inline="keep">${sheetText(sheet)}</style>\n`;
    case 'linked':
      return `<link rel="stylesheet" href="${name}">\n`;
    case 'linked-media':
      return `<link href='${name}' media="screen and (min-width: 500px)" rel=stylesheet>\n`;
  }
}

function printRule(rule: Rule): string {
  const nested = rule.nested.map(printRule).join(' ');
  const inner = `${rule.selectors.map(({ text }) => text).join(', ')} { ${rule.declarations.map((text) => `${text};`).join(' ')} ${nested} }`;
  return rule.around.reduceRight((text, { text: around }) => `${around} { ${text} }`, inner);
}

function unconditionalText(sheet: Sheet): string {
  const holds = sheet.kind === 'plain' || sheet.kind === 'linked';
  return (
    sheet.prelude + (holds ? sheet.rules.flatMap(unconditionalRule).map(printRule).join('\n') : layersOnly(sheet.rules))
  );
}

/** What of a rule holds without condition. An empty rule stays where layers or nesting would otherwise change. */
function unconditionalRule(rule: Rule): Rule[] {
  const kept = rule.around.filter(({ conditional }) => !conditional);
  if (kept.length < rule.around.length)
    return kept.some(({ text }) => text.startsWith('@layer'))
      ? [{ ...rule, around: kept, selectors: [{ text: 'never', conditional: false }], declarations: [], nested: [] }]
      : [];
  const selectors = rule.selectors.filter(({ text, conditional }) => !conditional && !isPseudoElement(text));
  if (selectors.length === 0)
    return [{ ...rule, selectors: [{ text: 'never', conditional: false }], declarations: [], nested: [] }];
  // `&` stands for the whole list: with a state in it, what is nested is conditional.
  const nested = selectors.length < rule.selectors.length ? [] : rule.nested.flatMap(unconditionalRule);
  return [{ ...rule, selectors, nested }];
}

function isPseudoElement(selector: string): boolean {
  return /::[a-z-]+$/.test(selector);
}

function layersOnly(rules: readonly Rule[]): string {
  return rules
    .flatMap(({ around }) => around.filter(({ text }) => text.startsWith('@layer')).map(({ text }) => `${text} {}`))
    .join('\n');
}
