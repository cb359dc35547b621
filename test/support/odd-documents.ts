import { Random } from './random.js';

const containers =
  'p div div td table tr li ul ol h1 h3 blockquote center font b i span span a a pre dl dt dd section th form label'.split(
    ' ',
  );
const styles = [
  'display:none',
  'text-transform:uppercase',
  'visibility:hidden',
  'visibility:visible',
  'display:inline-block',
  'display:flex',
  'display:block',
  'display:inline',
  'white-space:pre-wrap',
  'color:red',
  'float:left',
];
const entities = ['&nbsp;', '&amp;', ' &nbsp; ', '&zwnj;', '<br>', '<hr>', '<!-- no -->', '<img src=x>', '\n', ' '];

/** A document such as old editors left behind: wrong nesting, tags that nobody closes, styles that hide. Each word comes once. */
export function oddDocument(seed: number): string {
  const random = new Random(seed * 104_729);
  let words = 0;
  let links = 0;
  const open: string[] = [];
  const rules = Array.from({ length: 8 }, (_, index) => {
    const selector = random.pick([`.c${index}`, `.c${index} .c${index - 1}`, `td.c${index}`, `.c${index} > *`]);
    return `${selector}{${random.pick(styles)}${random.chance(0.1) ? ' !important' : ''}}`;
  });
  const narrow = `@media (max-width:480px){.c1{display:none}} @media (min-width:900px){.c2{display:block}}`;
  const tag = (): string => {
    const name = random.pick(containers);
    open.push(name);
    const href = name === 'a' ? ` href="https://l${(links += 1)}.example/?a=1&b=2"` : '';
    const named = random.chance(0.4) ? ` class=c${random.below(9)}` : '';
    const styled = random.chance(0.1) ? ` style="${random.pick(styles)}"` : '';
    return `<${name}${href}${named}${styled}>`;
  };
  const piece = (): string => {
    const kind = random.next();
    if (kind < 0.35) return tag();
    if (kind < 0.55 && open.length > 0)
      return `</${random.chance(0.9) ? (open.pop() ?? '') : random.pick(containers)}>`;
    if (kind < 0.75) return random.pick(entities);
    return ` w${(words += 1)}${random.chance(0.3) ? '' : ' '}`;
  };
  const body = Array.from({ length: 160 }, piece).join('');
  return `<html><head><style>${rules.join('\n')} ${narrow}</style></head><body>${body}</body></html>`;
}
