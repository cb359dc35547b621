/** What a feature of the table asks for: a property, and what its value has to hold. */
interface Asked {
  readonly own: string;
  readonly wanted: string | null;
}

const asked = new Map<string, Asked>();

/** The name of a feature, read once: a page has many values, and the table many features. */
function askedBy(name: string): Asked {
  const known = asked.get(name);
  if (known !== undefined) return known;
  const [own = '', wanted = null] = name.split(': ');
  asked.set(name, { own, wanted });
  return { own, wanted };
}

/** Whether a property with a value is what a feature of the table is called: `margin: auto`, `width: calc()`, `var()`. */
export function says(property: string, value: string, name: string): boolean {
  const { own, wanted } = askedBy(name);
  if (wanted === null) {
    if (property === own) return true;
    if (own === 'var()') return /\bvar\(/i.test(value);
    if (own === 'custom properties') return property.startsWith('--');
    return own === 'background-image' && hasPicture(property, value);
  }
  const isFunction = wanted.endsWith('()');
  if (own === 'color' && isFunction) return value.includes('(') && value.toLowerCase().includes(wanted.slice(0, -1));
  const isOwn = own === 'margin' || own === 'background' ? property.startsWith(own) : property === own;
  if (!isOwn) return false;
  if (wanted === 'negative') return /(?:^|\s)-\d*\.?\d+(?!\s*\))/.test(value) && !/^-?0\D*$/.test(value);
  if (wanted === 'gradient') return /gradient\(/i.test(value);
  if (isFunction) return value.toLowerCase().includes(wanted.slice(0, -1));
  if (/^(?:vw|vh|rem)$/.test(wanted)) return new RegExp(`\\d${wanted}\\b`, 'i').test(value);
  return value.toLowerCase().split(/\s+/).includes(wanted);
}

function hasPicture(property: string, value: string): boolean {
  return /^background(?:-image)?$/.test(property) && /\burl\(/i.test(value);
}

/** Whether an at-rule, by its name without the @ and its prelude, is what a feature of the table is called. */
export function matchesAtRule(own: string, prelude: string, name: string): boolean {
  switch (name) {
    case '@media (width)':
      return own === 'media' && /\b(?:device-)?width\b/i.test(prelude);
    case '@media (prefers-color-scheme)':
      return own === 'media' && /prefers-color-scheme/i.test(prelude);
    case '@media (hover)':
      return own === 'media' && /\(\s*(?:any-)?hover/i.test(prelude);
    case '@media print':
      return own === 'media' && /^\s*(?:only\s+)?print\b/i.test(prelude);
    default:
      return `@${own}` === name;
  }
}

/** Whether a list of selectors holds what a feature of the table is called: `child`, `:has()`. */
export function hasSelector(prelude: string, name: string): boolean {
  const plain = prelude.replace(/"[^"]*"|'[^']*'/g, '""');
  switch (name) {
    case 'universal':
      return /(?:^|[\s,>+~(])\*/.test(plain);
    case 'attribute':
      return plain.includes('[');
    case 'child':
      return />/.test(plain);
    case 'sibling':
      return /[+~](?!=)/.test(plain.replace(/\([^)]*\)/g, ''));
    default:
      return name.endsWith('()') ? plain.includes(name.slice(0, -1)) : new RegExp(`${name}(?![\\w-])`).test(plain);
  }
}

/** Whether a picture, by its address and what its bytes are, is of a kind; the format is null where the bytes are not known. */
export function isPictureOf(src: string, format: string | null, name: string): boolean {
  if (name === 'data') return /^data:/i.test(src);
  if (name === 'animated gif') return false;
  return format === null ? new RegExp(`\\.${name}f?(?:[?#]|$)`, 'i').test(src) : format === name;
}
