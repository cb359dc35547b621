/** What generated documents are styled with: small enough that rules meet on the same elements and properties. */

export const classNames = ['a', 'b', 'c', 'd', 'e'];

export const typeSelectors = ['div', 'p', 'span', 'a', 'h1', 'b', 'td', 'li', 'section', 'font', 'P', 'img'];

export const conditions = [
  '@media (max-width: 600px)',
  '@media (max-width: 600px)',
  '@media (max-width: 480px)',
  '@media (min-width: 600px)',
  '@media (width < 600px)',
  '@media screen and (max-width: 599px)',
  '@media (prefers-color-scheme: dark)',
  '@media (max-width: 600px) and (prefers-color-scheme: dark)',
  '@media all',
  '@media max-width: 600px',
  '@media screen and max-width: 600px',
  '@media (max-widht: 600px)',
  '@media (max-width 600px), (min-width: 500px)',
  '@media only screen and (max-width:600px)and (min-width:300px)',
  '@supports nonsense',
  '@supports (color: nonsense)',
  '@media print',
  '@media not print',
  '@media print and (prefers-color-scheme: dark)',
  '@supports (display: grid)',
  '@supports not (display: grid)',
  '@container (min-width: 300px)',
  '@container (max-width: 500px)',
  '@starting-style',
];

/** Rules without selectors: they change no computed style of an element here, and must not disturb those that do. */
export const standaloneRules = [
  '@font-face { font-family: Karrik; src: url(data:font/woff2;base64,) }',
  '@keyframes pulse { from { opacity: 0 } to { opacity: 1 } }',
  '@page { margin: 1cm }',
  '@unknown thing { .a { color: red } }',
  '.a, ::nonsense { color: red }',
  '.a:nonsense, .b { margin: 9px }',
  '.a..b { color: red }',
  '.a > { color: red }',
  '> .a { color: red }',
  '.a:hover( { color: red }',
  '#, .1, [x { color: red }] { color: red }',
  'div::before::after { color: red }',
  '.a { color: #; margin: 1px) ; width: U+; top: @x; left: ! }',
  '.a, { margin: 7px }',
  ':is() { color: red }',
  '.quirk * .none { color: red !important }',
  '/* .a { color: red } */',
  'u + .body .a { color: lime }',
];

/** Layers are named before other rules, so that none of them depends on a condition. */
export const layerOrders = ['two, one, one.inner', 'one, one.inner, two'];

export const pseudoClasses = [
  ':first-child',
  ':last-child',
  ':nth-child(2n+1)',
  ':nth-child(2 of .a)',
  ':nth-last-child(-n+2)',
  ':first-of-type',
  ':nth-of-type(2)',
  ':only-child',
  ':empty',
  ':link',
  ':any-link',
  ':lang(en)',
  ':not(.b)',
  ':not(.a, .c > *)',
  ':is(.d, #i1)',
  ':is(.a .b, ::before, .c)',
  ':where(.c)',
  ':has(> .b)',
  ':has(+ .a)',
  ':hover',
  ':not(:hover)',
  ':is(:hover, .a)',
  ':active',
  ':focus',
];

/** State pseudo-classes: a rule with one holds only sometimes. */
export const statePattern = /:(?:hover|active|focus)/;

export const attributeSelectors = [
  '[data-k="x"]',
  '[data-k="y" i]',
  '[title^=T i]',
  '[class~="b"]',
  '[align]',
  '[href|="#"]',
  '[lang]',
];

/** Declarations of one property, by the values that it may have. */
export const declarations: readonly (readonly [property: string, values: readonly string[]])[] = [
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
      'revert-layer',
      'nonsense',
      'var(--x)',
      'var(--y, teal)',
      'var(--none, var(--x))',
      'currentcolor',
    ],
  ],
  ['background-color', ['#eee', 'yellow', 'transparent', 'var(--x)', 'inherit', 'blurple']],
  [
    'background',
    ['#fafafa', 'none', 'linear-gradient(red, blue)', 'var(--y)', '#eee; background: linear-gradient(red, blue)'],
  ],
  ['margin', ['0', '4px 8px', '1em auto', 'inherit', '-3px', 'revert-layer']],
  ['margin-left', ['5px', 'auto', '10%', 'calc(2px + 3px)']],
  ['margin-inline-start', ['7px', '2em']],
  ['padding', ['3px', '1px 2px 3px 4px', 'calc(1px * 4)', 'unset', '3']],
  ['padding-top', ['11px', '0', 'var(--n)', 'calc(var(--n) * 2)']],
  ['border', ['1px solid red', 'none', '2px dashed var(--x)', '3px']],
  ['border-left-color', ['blue', 'var(--y)']],
  ['border-width', ['1px 2px', 'thin']],
  ['border-top', ['4px double green', '0']],
  ['border-collapse', ['collapse', 'separate']],
  ['border-spacing', ['0', '3px']],
  ['font-size', ['12px', '1.5em', 'larger', '80%', 'huge', '15px; font-size: clamp(10px, 3vw, 30px)']],
  ['font', ['italic 14px/1.4 serif', 'bold 20px Arial', 'inherit']],
  ['font-family', ['"Trebuchet MS", serif', "'It''s', Arial", 'Karrik']],
  ['line-height', ['1.2', '20px', 'normal', '150%']],
  ['font-weight', ['bold', 'lighter', '300']],
  ['text-align', ['center', 'right', 'inherit', 'start']],
  ['vertical-align', ['top', 'middle', '3px']],
  ['text-decoration', ['underline', 'none', 'line-through red']],
  ['width', ['100px', '50%', 'auto', 'calc(100% - 20px)', 'inherit', '80px; width: min(80%, 300px)']],
  ['height', ['40px', 'auto']],
  ['max-width', ['300px', 'none']],
  ['display', ['block', 'inline-block', 'inline', 'flex', 'none', 'block; display: -nonsense-flex']],
  ['letter-spacing', ['1px', 'normal']],
  ['list-style', ['square inside', 'none']],
  ['border-radius', ['4px', '1px 2px / 3px']],
  ['opacity', ['0.5', '1']],
  ['all', ['unset', 'revert', 'initial']],
  ['flex', ['1', '0 0 40px']],
  ['gap', ['4px', '1px 2px']],
  ['container-type', ['inline-size', 'normal']],
  ['mso-line-height-rule', ['exactly']],
  ['-webkit-text-size-adjust', ['100%', 'none']],
  ['direction', ['rtl', 'ltr']],
];

/** Declarations whose values hold template tags, in part or whole. */
export const taggedDeclarations = [
  'color: {{color}}',
  'color: ~~COLOR~~',
  'background-color: {{ color | default: "red; }" }}',
  'background: {{color}} url({{image}})',
  'border: 1px solid {{color}}',
  'margin: {{size}} auto {{ size }}',
  'padding: @{size}',
  'padding: var(--n) {{size}}',
  'width: calc({{size}} * 2)',
  'height: {{number}}px',
  'font-family: "{{font}}", serif',
  'font-size: {{number}}px',
  '--x: {{color}}',
];

/** What a platform fills in: with it the browser judges. Other tags print nothing. */
export const tagSamples: ReadonlyMap<string, string> = new Map([
  ['{{color}}', 'green'],
  ['~~COLOR~~', '#123'],
  ['{{ color | default: "red; }" }}', 'rgb(1, 2, 3)'],
  ['{{image}}', 'data:,'],
  ['{{size}}', '7px'],
  ['{{ size }}', '9px'],
  ['@{size}', '3px 5px'],
  ['{{number}}', '21'],
  ['{{font}}', 'Karrik'],
  ['{{key}}', 'k1'],
]);

/** Selectors that read a template tag, and the attribute that they read it in. */
export const taggedSelectors = [
  { selector: '[data-t="{{key}}"]', attribute: 'data-t="{{key}}"' },
  { selector: "[data-t~='{{key}}']", attribute: "data-t='{{key}}'" },
  { selector: '[data-t*="{% if a %}x"]', attribute: 'data-t="{% if a %}x{% end %}"' },
];

export const customProperties = [
  '--x: #0a0',
  '--x: purple',
  '--x: var(--y)',
  '--x: inherit',
  '--y: var(--x)',
  '--y: teal',
  '--y: initial',
  '--n: 6px',
  '--n: calc(1px + 1em)',
];

/** Presentational attributes, by element: they rank below every style sheet (HTML standard, 15.2). */
export const presentational: Readonly<Record<string, readonly string[]>> = {
  td: [' align="center"', ' valign=top', ' width="50"', " bgcolor='#ddeeff'", ' nowrap', ' height=30', ' align=char'],
  table: [
    ' cellpadding="4"',
    ' cellspacing=0',
    ' border="1"',
    ' align="center"',
    ' width="90%"',
    ' bgcolor="silver"',
    ' align=right',
    ' rules=all frame=box',
    ' border',
    ' bordercolor="#123456"',
    ' height="40" width=0',
    ' background="data:,"',
  ],
  tr: [' align="right"', ' valign="bottom"', ' bgcolor="#eee"', ' height=20'],
  div: [' align="right"', ' align="center"', ' align=justify', ' align="middle"', ' hidden'],
  center: [' align="left"'],
  p: [' align=center', ' dir="rtl"'],
  h1: [' align=right'],
  img: [
    ' width="20" height=10',
    ' hspace="4"',
    ' border="2"',
    ' align=left',
    ' vspace=3 width="10%"',
    ' align="absmiddle"',
  ],
  ul: [' type=square', ' compact', ' dir=rtl'],
  ol: [' type="a" start=3', ' reversed'],
  li: [' type=circle', ' value="4"'],
  hr: [' width="50%" size=3', ' color=red', ' noshade align="left"'],
  font: [' size="5"', ' face="Arial" color=#0a0', ' size="+1"'],
  body: [' text="#333" link=red', ' bgcolor=ivory', ' marginwidth="4" topmargin=2', ' background="data:,"'],
  a: [' name=x', ' hidden="until-found"'],
};

/** Template tags of several languages, with the delimiters they are told by. */
export const templateTags = ['{{name}}', '@{name}', '~~NAME~~', '{% if a %}', '(:name:)', '#{person:name}'];

export const templateDelimiters = [
  { open: '{{', close: '}}', quotes: true, content: 'any' },
  { open: '@{', close: '}', quotes: true, content: 'any' },
  { open: '~~', close: '~~', quotes: false, content: 'any' },
  { open: '{%', close: '%}', quotes: true, content: 'any' },
  { open: '(:', close: ':)', quotes: false, content: 'name' },
  { open: '#{', close: '}', quotes: true, content: 'any' },
] as const;
