import { Random } from './random.js';

/** A document that fights over styles, and what only its unconditional rules would be. */
export interface StyledDocument {
  readonly html: string;
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

const classes = ['a', 'b', 'c', 'd', 'e'];
const tags = ['div', 'p', 'span', 'a', 'h1', 'b', 'td', 'li', 'section'];
const conditions = [
  '@media (max-width: 600px)',
  '@media (max-width: 480px)',
  '@media (min-width: 600px)',
  '@media screen and (max-width: 599px)',
  '@media (prefers-color-scheme: dark)',
  '@media (max-width: 600px) and (prefers-color-scheme: dark)',
  '@media all',
  '@media print',
  '@supports (display: grid)',
];

const values: readonly (readonly [string, readonly string[]])[] = [
  [
    'color',
    [
      'red',
      '#123456',
      'rgb(10 20 30)',
      'inherit',
      'initial',
      'unset',
      'revert',
      'nonsense',
      'var(--x)',
      'var(--y, teal)',
      'var(--none, var(--x))',
      'currentcolor',
    ],
  ],
  ['background-color', ['#eee', 'yellow', 'transparent', 'var(--x)', 'inherit', 'blurple']],
  ['background', ['#fafafa', 'none', 'linear-gradient(red, blue)', 'var(--y)']],
  ['margin', ['0', '4px 8px', '1em auto', 'inherit', '-3px']],
  ['margin-left', ['5px', 'auto', '10%', 'calc(2px + 3px)']],
  ['margin-inline-start', ['7px', '2em']],
  ['padding', ['3px', '1px 2px 3px 4px', 'calc(1px * 4)', 'unset']],
  ['padding-top', ['11px', '0', 'var(--n)', 'calc(var(--n) * 2)']],
  ['border', ['1px solid red', 'none', '2px dashed var(--x)', '3px']],
  ['border-left-color', ['blue', 'var(--y)']],
  ['border-width', ['1px 2px', 'thin']],
  ['border-top', ['4px double green', '0']],
  ['font-size', ['12px', '1.5em', 'larger', '80%', 'huge']],
  ['font', ['italic 14px/1.4 serif', 'bold 20px Arial', 'inherit']],
  ['line-height', ['1.2', '20px', 'normal', '150%']],
  ['font-weight', ['bold', 'lighter', '300']],
  ['text-align', ['center', 'right', 'inherit']],
  ['text-decoration', ['underline', 'none', 'line-through red']],
  ['width', ['100px', '50%', 'auto', 'calc(100% - 20px)']],
  ['display', ['block', 'inline-block', 'inline', 'flex', 'none']],
  ['letter-spacing', ['1px', 'normal']],
  ['list-style', ['square inside', 'none']],
  ['border-radius', ['4px', '1px 2px / 3px']],
  ['opacity', ['0.5', '1']],
  ['all', ['unset', 'revert']],
  ['flex', ['1', '0 0 40px']],
  ['gap', ['4px', '1px 2px']],
];

/** Makes a document from a seed. */
export function styledDocument(seed: number): StyledDocument {
  return new Maker(new Random(seed)).document();
}

class Maker {
  #ids = 0;
  #impliesBody = false;
  readonly #usesLayers: boolean;

  constructor(private readonly random: Random) {
    this.#usesLayers = random.chance(0.25);
  }

  document(): StyledDocument {
    const body = this.children(0, 3);
    const bodyTag = `<body${this.attributes()}>`;
    const sheets = Array.from({ length: this.random.between(1, 3) }, (_, index) => this.sheet(index === 0));
    const page = (head: string): string =>
      `<!doctype html>\n<html lang="en"${this.random.chance(0) ? '' : ''}>\n<head><title>t</title>\n${head}</head>\n${bodyTag}${body}</body></html>\n`;
    return {
      html: page(
        sheets
          .map(
            ({ media, rules, prelude }) =>
              `<style${media}>${prelude}${rules.map((rule) => printRule(rule)).join('\n')}</style>\n`,
          )
          .join(''),
      ),
      unconditional: page(
        sheets
          .map(
            ({ media, rules, prelude }) =>
              `<style>${prelude}${
                media === ''
                  ? rules
                      .flatMap(unconditionalRule)
                      .map((rule) => printRule(rule))
                      .join('\n')
                  : layersOnly(rules)
              }</style>\n`,
          )
          .join(''),
      ),
      strippable: !this.#impliesBody,
    };
  }

  private sheet(first: boolean): { media: string; rules: Rule[]; prelude: string } {
    // The order of layers is fixed first: one that depends on a condition is reported, not kept.
    const media = !(first && this.#usesLayers) && this.random.chance(0.12) ? ' media="(max-width: 600px)"' : '';
    const prelude =
      this.#usesLayers && first ? `@layer ${this.random.pick(['two, one, one.inner', 'one, one.inner, two'])};\n` : '';
    return { media, prelude, rules: Array.from({ length: this.random.between(3, 9) }, () => this.rule(0)) };
  }

  private rule(depth: number): Rule {
    const around: { text: string; conditional: boolean }[] = [];
    if (depth === 0 && this.#usesLayers && this.random.chance(0.5))
      around.push({ text: `@layer ${this.random.pick(['one', 'two', 'one.inner'])}`, conditional: false });
    if (depth === 0 && this.random.chance(0.06)) around.push({ text: '@scope (.a) to (.e)', conditional: false });
    if (this.random.chance(depth === 0 ? 0.4 : 0.15))
      around.push({ text: this.random.pick(conditions), conditional: true });
    const nested = depth === 0 && this.random.chance(0.12) ? [this.rule(1)] : [];
    const count = this.random.chance(0.2) ? 2 : 1;
    const selectors = Array.from({ length: count }, () => (depth > 0 ? this.nestedSelector() : this.selector()));
    const showsHead = selectors.some(({ text }) => text.includes('*') || text === '');
    const declarations = this.declarations();
    return {
      selectors,
      // A style that shows the head, and with it the style sheets themselves, compares nothing.
      declarations: showsHead ? declarations.filter((text) => !/^(?:display|all):/.test(text)) : declarations,
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
      inner.text,
    ]);
    return { text, conditional: text.includes(':hover') };
  }

  private selector(): Selector {
    const parts = [this.compound()];
    while (this.random.chance(0.3) && parts.length < 3) parts.push(this.compound());
    const text = parts
      .map((part, index) => (index === 0 ? part.text : `${this.random.pick([' ', ' > ', ' + ', ' ~ '])}${part.text}`))
      .join('');
    return {
      text: text + (this.random.chance(0.04) ? '::before' : ''),
      conditional: parts.some((part) => part.conditional),
    };
  }

  private compound(): Selector {
    const { random } = this;
    const simple = (): string =>
      random.pick([
        `.${random.pick(classes)}`,
        random.pick(tags),
        `#i${random.between(1, 6)}`,
        `.${random.pick(classes)}.${random.pick(classes)}`,
        '*',
        `[data-k="${random.pick(['x', 'y'])}"]`,
        `[title^=T i]`,
      ]);
    const pseudo = random.pick([
      '',
      '',
      '',
      '',
      ':first-child',
      ':last-child',
      ':nth-child(2n+1)',
      ':nth-child(2 of .a)',
      `:not(.${random.pick(classes)})`,
      `:is(.${random.pick(classes)}, #i1)`,
      `:where(.${random.pick(classes)})`,
      `:has(> .${random.pick(classes)})`,
      ':only-child',
      ':nth-of-type(2)',
      ':hover',
      ':not(:hover)',
      ':empty',
      ':is(:hover, .a)',
    ]);
    return { text: simple() + pseudo, conditional: pseudo.includes(':hover') };
  }

  private declarations(): string[] {
    const { random } = this;
    return Array.from({ length: random.between(1, 4) }, () => {
      if (random.chance(0.14))
        return `--${random.pick(['x', 'y', 'n'])}: ${random.pick(['#0a0', 'purple', '6px', 'var(--x)', 'var(--y)', 'inherit'])}`;
      const [property, choices] = random.pick(values);
      return `${property}: ${random.pick(choices)}${random.chance(0.18) ? ' !important' : ''}`;
    });
  }

  private attributes(): string {
    const { random } = this;
    let text = '';
    if (random.chance(0.6))
      text += ` class="${random.pick(classes)}${random.chance(0.3) ? ` ${random.pick(classes)}` : ''}"`;
    if (random.chance(0.15) && this.#ids < 6) text += ` id="i${(this.#ids += 1)}"`;
    if (random.chance(0.12)) text += ` data-k="${random.pick(['x', 'y'])}"`;
    if (random.chance(0.06)) text += ' title="tip"';
    if (random.chance(0.18))
      text += ` style="${this.declarations()
        .filter((declaration) => !declaration.startsWith('--') || random.chance(0.5))
        .join('; ')}"`;
    return text;
  }

  private children(depth: number, most: number): string {
    return Array.from({ length: this.random.between(1, most) }, () => this.element(depth)).join(
      this.random.chance(0.5) ? '\n' : '',
    );
  }

  private element(depth: number): string {
    const { random } = this;
    if (depth > 3 || random.chance(0.2))
      return random.pick([
        'text',
        `<b${this.attributes()}>bold</b>`,
        `<a href="#"${this.attributes()}>link</a>`,
        `<span${this.attributes()}></span>`,
      ]);
    const kind = random.pick(['div', 'div', 'p', 'section', 'table', 'ul', 'h1']);
    if (kind === 'table') return this.table(depth);
    if (kind === 'ul')
      return `<ul${this.attributes()}><li${this.attributes()}>${this.children(depth + 2, 2)}</li><li${this.attributes()}>two</li></ul>`;
    const inside = kind === 'p' || kind === 'h1' ? `text <b${this.attributes()}>x</b>` : this.children(depth + 1, 3);
    return `<${kind}${this.attributes()}>${inside}</${kind}>`;
  }

  private table(depth: number): string {
    const implied = this.random.chance(0.25);
    if (implied) this.#impliesBody = true;
    const rows = `<tr${this.attributes()}><td${this.attributes()}>${this.children(depth + 2, 2)}</td><td${this.attributes()}>2</td></tr>`;
    return `<table${this.attributes()}>${implied ? rows : `<tbody${this.attributes()}>${rows}</tbody>`}</table>`;
  }
}

function printRule(rule: Rule, indent = ''): string {
  const inner = `${rule.selectors.map(({ text }) => text).join(', ')} { ${rule.declarations.join('; ')}${rule.declarations.length > 0 ? ';' : ''} ${rule.nested.map((nested) => printRule(nested, `${indent}  `)).join(' ')} }`;
  return rule.around.reduceRight((text, { text: around }) => `${around} { ${text} }`, inner);
}

/** What of a rule holds without condition. An empty rule stays where layers or nesting would otherwise change. */
function unconditionalRule(rule: Rule): Rule[] {
  const kept = rule.around.filter(({ conditional }) => !conditional);
  if (kept.length < rule.around.length)
    return kept.some(({ text }) => text.startsWith('@layer'))
      ? [{ ...rule, around: kept, selectors: [{ text: 'never', conditional: false }], declarations: [], nested: [] }]
      : [];
  const selectors = rule.selectors.filter(({ text, conditional }) => !conditional && !text.includes('::'));
  if (selectors.length === 0)
    return [{ ...rule, selectors: [{ text: 'never', conditional: false }], declarations: [], nested: [] }];
  // `&` stands for the whole list: with a state in it, what is nested is conditional.
  const nested = selectors.length < rule.selectors.length ? [] : rule.nested.flatMap(unconditionalRule);
  return [{ ...rule, selectors, nested }];
}

function layersOnly(rules: readonly Rule[]): string {
  return rules
    .flatMap(({ around }) => around.filter(({ text }) => text.startsWith('@layer')).map(({ text }) => `${text} {}`))
    .join('\n');
}
