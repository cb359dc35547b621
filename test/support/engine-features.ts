import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { readEngines } from '../../src/core/engines/read-engines.js';
import type { Feature } from '../../src/core/engines/engine.js';
import { SourceText } from '../../src/core/text/source-text.js';
import { repository } from './project.js';

/** The table of what engines make of features, as it ships. */
export function engineFeatures(): readonly Feature[] {
  const text = readFileSync(join(repository, 'data/engines.yaml'), 'utf8');
  const { features } = readEngines(new SourceText('engines.yaml', text));
  if (features === null) throw new Error('data/engines.yaml cannot be read');
  return features;
}

/** Values for properties that the table names alone. */
const values: Readonly<Record<string, string>> = {
  'max-width': '300px',
  'min-width': '30px',
  'max-height': '300px',
  'min-height': '30px',
  margin: '4px 8px',
  padding: '4px 8px',
  'border-radius': '6px',
  'box-shadow': '0 1px 2px #000',
  'text-shadow': '0 1px 2px #000',
  opacity: '0.5',
  'flex-direction': 'column',
  'flex-wrap': 'wrap',
  'justify-content': 'center',
  'align-items': 'center',
  gap: '8px',
  'grid-template-columns': '1fr 1fr',
  order: '2',
  'z-index': '2',
  float: 'left',
  clear: 'both',
  'background-image': "url('a.png')",
  'background-size': 'cover',
  'background-position': 'center',
  'background-blend-mode': 'multiply',
  'mix-blend-mode': 'multiply',
  filter: 'blur(2px)',
  'backdrop-filter': 'blur(2px)',
  'clip-path': 'circle(50%)',
  mask: 'none',
  transform: 'rotate(3deg)',
  transition: 'all 1s',
  animation: 'turn 1s',
  'object-fit': 'cover',
  'object-position': 'center',
  'aspect-ratio': '2',
  'letter-spacing': '1px',
  'word-spacing': '2px',
  'line-height': '20px',
  'text-transform': 'uppercase',
  'text-overflow': 'ellipsis',
  columns: '2',
  'column-count': '2',
  'writing-mode': 'vertical-rl',
  'list-style-image': 'none',
  outline: '1px solid red',
  'border-image': 'none',
  'border-collapse': 'collapse',
  'user-select': 'none',
  cursor: 'pointer',
  content: "'x'",
  'font-display': 'swap',
  'font-variant': 'small-caps',
  'scroll-snap-type': 'x mandatory',
};

const special: Readonly<Record<string, string>> = {
  'margin: auto': 'margin:0 auto',
  'margin: negative': 'margin:-4px',
  'background: gradient': 'background-image:linear-gradient(red,blue)',
  'width: calc()': 'width:calc(100% - 4px)',
  'width: min()': 'width:min(100%,300px)',
  'width: clamp()': 'width:clamp(1px,2px,3px)',
  'font-size: clamp()': 'font-size:clamp(1px,2px,3px)',
  'width: vw': 'width:50vw',
  'height: vh': 'height:50vh',
  'font-size: rem': 'font-size:2rem',
  'font-size: vw': 'font-size:5vw',
  'color: var()': 'color:var(--ink)',
  'background: var()': 'background:var(--ink)',
  'var()': 'border-color:var(--ink)',
  'custom properties': '--ink:red',
  'color: hsl()': 'color:hsl(20 30% 40%)',
  'color: oklch()': 'color:oklch(0.5 0.1 20)',
  'color: color-mix()': 'color:color-mix(in srgb,red,blue)',
  'color: light-dark()': 'color:light-dark(red,blue)',
  'color: rgba()': 'color:rgba(1,2,3,0.5)',
};

/** The declaration by which a page relies on a feature of the properties. */
export function declarationFor(name: string): string {
  const known = special[name];
  if (known !== undefined) return known;
  const [property = '', value = values[property] ?? ''] = name.split(': ');
  if (value === '') throw new Error(`There is no example of ${name}`);
  return `${property}:${value}`;
}

/** The rule by which a page relies on a feature of the at-rules or the selectors. */
export function ruleFor({ kind, name }: Feature): string {
  const inner = '.mark{color:red}';
  if (kind === 'selectors') {
    const selectors: Readonly<Record<string, string>> = {
      universal: '.mark *',
      attribute: '.mark[lang]',
      child: '.mark > p',
      sibling: '.mark + p',
      ':nth-child()': '.mark:nth-child(2)',
      ':not()': '.mark:not(.b)',
      ':is()': '.mark:is(.b)',
      ':where()': '.mark:where(.b)',
      ':has()': '.mark:has(p)',
      ':root': ':root .mark',
    };
    return `${selectors[name] ?? `.mark${name}`}{color:red}`;
  }
  const rules: Readonly<Record<string, string>> = {
    '@media (width)': `@media (max-width:600px){${inner}}`,
    '@media (prefers-color-scheme)': `@media (prefers-color-scheme:light){${inner}}`,
    '@media (hover)': `@media (hover:hover){${inner}}`,
    '@media print': `@media print{${inner}}`,
    '@import': "@import 'mark.css';",
    '@font-face': "@font-face{font-family:mark;src:url('mark.woff2')}",
    '@supports': `@supports (display:grid){${inner}}`,
    '@keyframes': '@keyframes mark{to{color:red}}',
    '@layer': `@layer a{${inner}}`,
    '@container': `@container (width>1px){${inner}}`,
    '@property': "@property --mark{syntax:'*';inherits:true}",
    '@scope': `@scope (p){${inner}}`,
    '@charset': "@charset 'mark';",
    '@page': '@page{margin:1cm;--mark:1}',
    nesting: '.a{color:blue;.mark{color:red}}',
  };
  const rule = rules[name];
  if (rule === undefined) throw new Error(`There is no example of ${name}`);
  return rule;
}
