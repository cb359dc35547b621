import { Random } from './random.js';

/** A message with several sections, each a layout of its own. */
export function layoutDocument(seed: number, sections: number): string {
  return new LayoutMaker(seed).document(sections);
}

const words = 'saw drill plane clamp rasp file vice jig awl adze level square chisel mallet auger brace'.split(' ');
const colors = ['#fde', '#def', '#efd', '#ffe8cc', '#e6e6fa', '#d0f0e0', '#fff', '#f6f1e4'];
const borders = ['1px solid #99a', '2px solid #c63', '3px double #456', '1px dashed #999'];

/** Builds nested boxes from what layouts support; each draws its own style rule. */
class LayoutMaker {
  readonly random: Random;
  readonly #rules: string[] = [];
  readonly #narrow: string[] = [];
  readonly #narrower: string[] = [];
  #names = 0;

  constructor(private readonly seed: number) {
    this.random = new Random(seed * 7919);
  }

  document(sections: number): string {
    const body = Array.from({ length: sections }, () => this.section()).join('\n');
    const width = this.random.pick([600, 640, 560]);
    return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1">
<title>Layouts ${this.seed}</title>
<style>
body{margin:0;background:#e8edf3;font-family:Arial,sans-serif;font-size:16px;line-height:1.5;color:#223}
*{box-sizing:border-box}
.page{max-width:${width}px;margin:0 auto;background:#fff;padding:${this.random.pick(['24px', '20px 16px', '32px 24px'])}}
img{display:block;border:0}
${this.#rules.join('\n')}
@media (max-width:600px){${this.#narrow.join('')}}
@media (max-width:480px){${this.#narrower.join('')}}
</style></head>
<body><div class="page">
${body}
</div></body></html>
`;
  }

  private name(rule: string, narrow = '', narrower = ''): string {
    this.#names += 1;
    const name = `n${this.#names}`;
    this.#rules.push(`.${name}{${rule}}`);
    if (narrow !== '') this.#narrow.push(`.${name}{${narrow}}`);
    if (narrower !== '') this.#narrower.push(`.${name}{${narrower}}`);
    return name;
  }

  private section(): string {
    const name = this.name(`margin:${this.random.pick(['0 0 24px', '16px 0', '0', '0 0 8px'])}`);
    return `<section class="${name}">${this.block(0, 500)}</section>`;
  }

  /** @param room the least width that the block may count on, in px, on a desktop */
  private block(depth: number, room: number): string {
    const { random } = this;
    // A word that is wider than its box overflows it in the source and widens the table: no layout to compare.
    if (room < 170) return this.text();
    const kinds = ['text', 'text', 'heading', 'box', 'picture', 'button', 'list'];
    if (depth < 3 && room > 240) kinds.push('row', 'row', 'row', 'grid', 'media', 'stack', 'lines', 'ends');
    switch (random.pick(kinds)) {
      case 'row':
        return this.row(depth, room);
      case 'grid':
        return this.grid(room);
      case 'media':
        return this.media(room);
      case 'box':
        return depth > 3 ? this.text() : this.box(depth, room);
      case 'stack':
        return this.stack();
      case 'lines':
        return this.lines();
      case 'ends':
        return this.ends();
      case 'picture':
        return this.picture();
      case 'button':
        return this.button();
      case 'list':
        return `<ul><li>${this.words(3)}</li><li>${this.words(6)}</li></ul>`;
      case 'heading':
        return this.heading();
      default:
        return this.text();
    }
  }

  private blocks(depth: number, room: number): string {
    return Array.from({ length: this.random.between(1, 3) }, () => this.block(depth, room)).join('\n');
  }

  private box(depth: number, room: number): string {
    const { random } = this;
    const padding = random.pick([8, 12, 16, 20]);
    const rule = [
      `padding:${padding}px`,
      random.chance(0.7) ? `background:${random.pick(colors)}` : '',
      random.chance(0.5) ? `border:${random.pick(borders)}` : '',
      random.chance(0.3) ? `border-radius:${random.pick(['6px', '12px'])}` : '',
      random.chance(0.4) ? `margin:${random.pick(['12px 0', '0 0 20px', '0 auto', '8px 0 16px'])}` : '',
      random.chance(0.15) ? 'max-width:400px' : '',
      random.chance(0.2) ? 'text-align:center' : '',
    ];
    const narrow = random.chance(0.3) ? `padding:${random.pick(['6px', '10px 4px'])};` : '';
    const narrower = random.chance(0.15) ? 'display:none' : '';
    const name = this.name(rule.filter((part) => part !== '').join(';'), narrow, narrower);
    return `<div class="${name}">${this.blocks(depth + 1, room - 2 * padding - 6)}</div>`;
  }

  private row(depth: number, room: number): string {
    const { random } = this;
    const gap = random.pick([0, 12, 16, 20, 24]);
    const shape = random.pick(['weights', 'weights', 'equal', 'fixed', 'percent', 'reverse']);
    const align = random.pick(['', '', '', 'align-items:center;', 'align-items:flex-end;', 'align-items:flex-start;']);
    const painted = random.chance(0.4);
    const padding = painted ? `padding:${random.pick(['8px', '12px', '10px 6px'])};` : '';
    const columns = this.columnRules(shape).map((rule) => {
      const paint = painted ? `background:${random.pick(colors)};` : '';
      return this.name(
        `${rule};min-width:0;${padding}${paint}`,
        '',
        shape === 'fixed' || shape === 'percent' ? 'flex:none;width:100%;' : '',
      );
    });
    const stack = `flex-direction:column;align-items:stretch;${random.chance(0.5) ? `gap:${random.pick([8, 14, 20])}px;` : ''}`;
    const direction = shape === 'reverse' ? 'flex-direction:row-reverse;' : '';
    const name = this.name(
      `display:flex;gap:${gap}px;${align}${direction}${random.chance(0.3) ? 'margin:12px 0;' : ''}`,
      '',
      stack,
    );
    const share = { weights: 0.25, fixed: 0.3, percent: 0.25 }[shape] ?? 1 / columns.length;
    const inside = Math.floor((room - gap * (columns.length - 1)) * share) - 24;
    return `<div class="${name}">${columns.map((column) => `<div class="${column}">${this.blocks(depth + 1, inside)}</div>`).join('')}</div>`;
  }

  private columnRules(shape: string): string[] {
    const { random } = this;
    switch (shape) {
      case 'weights':
        return random.pick([
          ['flex:1', 'flex:2'],
          ['flex:2', 'flex:3'],
          ['flex:1', 'flex:1', 'flex:2'],
        ]);
      case 'fixed':
        return random.pick([
          ['flex:0 0 160px', 'flex:1'],
          ['flex:1', 'flex:0 0 120px'],
        ]);
      case 'percent':
        return random.pick([
          ['flex:none;width:30%', 'flex:1'],
          ['flex:none;width:25%', 'flex:none;width:40%'],
        ]);
      default:
        return Array.from({ length: random.between(2, 3) }, () => 'flex:1');
    }
  }

  private grid(room: number): string {
    const { random } = this;
    const columns = random.pick(room > 400 ? [2, 3, 4] : [2, 3]);
    const gap = random.pick(['16px', '8px 12px', '0', '20px 10px']);
    const template = random.pick([`repeat(${columns},1fr)`, `repeat(${columns},1fr)`, '2fr 1fr', '100px 1fr']);
    const fewer = random.pick(['grid-template-columns:1fr;', 'grid-template-columns:1fr 1fr;', '']);
    const name = this.name(
      `display:grid;grid-template-columns:${template};gap:${gap}`,
      fewer,
      'grid-template-columns:1fr;',
    );
    const painted = random.chance(0.6);
    const cells = Array.from({ length: random.between(2, 7) }, () => {
      const cell = this.name(painted ? `padding:10px;background:${random.pick(colors)}` : 'padding:0');
      return `<div class="${cell}"><p>${this.words(random.between(1, 6))}</p></div>`;
    });
    return `<div class="${name}">${cells.join('')}</div>`;
  }

  private media(room: number): string {
    const gap = this.random.pick([12, 16]);
    const name = this.name(`display:flex;gap:${gap}px;align-items:${this.random.pick(['flex-start', 'center'])}`);
    const picture = this.name('flex:none;width:64px;height:64px');
    const body = this.name('flex:1;min-width:0');
    return `<div class="${name}"><img class="${picture}" src="../assets/icon.png" alt="tool"><div class="${body}"><p>${this.words(room > 400 ? 20 : 6)}</p></div></div>`;
  }

  private stack(): string {
    const align = this.random.pick(['', 'align-items:flex-start;', 'align-items:center;', 'align-items:flex-end;']);
    const name = this.name(`display:flex;flex-direction:column;gap:${this.random.pick([8, 14])}px;${align}`);
    const items = Array.from({ length: this.random.between(2, 3) }, () => {
      const item = this.name(`margin:0;padding:4px 8px;background:${this.random.pick(colors)}`);
      return `<p class="${item}">${this.words(this.random.between(1, 12))}</p>`;
    });
    return `<div class="${name}">${items.join('')}</div>`;
  }

  private lines(): string {
    const justify = this.random.pick(['', 'justify-content:center;', 'justify-content:flex-end;']);
    const name = this.name(
      `display:flex;flex-wrap:wrap;gap:6px ${this.random.pick([12, 24])}px;margin-bottom:16px;${justify}`,
    );
    const links = Array.from({ length: this.random.between(3, 7) }, () => this.link());
    return `<div class="${name}">${links.join('')}</div>`;
  }

  private ends(): string {
    const name = this.name('display:flex;justify-content:space-between;align-items:center');
    return `<div class="${name}"><img src="../assets/icon.png" alt="sign" width="48" height="48">${this.link()}</div>`;
  }

  private link(): string {
    return `<a href="https://alderlane.example/${this.random.between(1, 99)}">${this.words(1)}</a>`;
  }

  private picture(): string {
    const rule = this.random.pick([
      'width:100%;height:auto',
      'max-width:100%;height:auto',
      'width:50%;height:auto',
      'width:120px;height:60px',
    ]);
    return `<img class="${this.name(`${rule};margin:${this.random.pick(['0', '0 0 12px', '8px 0'])}`)}" src="../assets/photo.png" alt="shed">`;
  }

  private button(): string {
    const box = this.name(
      `margin:${this.random.pick(['0', '12px 0'])};text-align:${this.random.pick(['left', 'center', 'right'])}`,
    );
    const link = this.name(
      `display:inline-block;padding:12px 20px;background:#0a58ca;color:#fff;text-decoration:none;border-radius:${this.random.pick(['0', '6px'])}`,
      '',
      this.random.chance(0.4) ? 'display:block;' : '',
    );
    return `<p class="${box}"><a class="${link}" href="https://alderlane.example/b">${this.words(2)}</a></p>`;
  }

  private heading(): string {
    const level = this.random.between(1, 3);
    const name = this.name(
      this.random.pick(['margin:0 0 12px', 'font-size:22px;line-height:28px', 'color:#a33;margin-top:0']),
      this.random.chance(0.3) ? 'font-size:18px;' : '',
    );
    return `<h${level} class="${name}">${this.words(4)}</h${level}>`;
  }

  private text(): string {
    const name = this.name(
      this.random.pick(['margin:0', 'margin:0 0 16px', '', 'padding:6px 0', 'font-size:14px', 'text-align:right']),
      this.random.chance(0.2) ? 'font-size:14px;' : '',
      this.random.chance(0.1) ? 'display:none;' : '',
    );
    const inside = this.random.chance(0.3)
      ? ` <strong>${this.words(2)}</strong> <a href="https://alderlane.example/t">${this.words(1)}</a>`
      : '';
    return `<p class="${name}">${this.words(this.random.between(4, 18))}${inside}</p>`;
  }

  private words(count: number): string {
    return Array.from({ length: count }, () => this.random.pick(words)).join(' ');
  }
}
