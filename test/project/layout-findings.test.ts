import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { layoutMessage } from '../support/layout-message.js';
import { LayoutProject } from '../support/layout-project.js';

type Row = [css: string, body: string, finding: string, fix: RegExp];

const row = '<div class="r"><div class="x">One</div><div>Two</div></div>';

/** What has no equal in tables: the finding stands at the declaration and says what to write. */
const refused: Row[] = [
  ['.r{float:left}', row, '3:4  error  css-unsupported  float: left', /display: flex/],
  ['.r{position:absolute}', row, '3:4  error  css-unsupported  position: absolute', /a badge as a line above/],
  ['.r{display:flex;flex-wrap:wrap}.r>div{flex:1}', row, '3:17  error  css-unsupported  flex-wrap: wrap', /stack/],
  ['.r{display:flex}.r>div{flex:1;margin:-4px}', row, '3:31  error  css-unsupported  margin: -4px', /0 or more/],
  ['.x{position:relative;top:-4px}', row, '3:22  error  css-unsupported  top: -4px', /order of the text/],
  [
    '.r{display:flex}.r>div{flex:1}.x p{height:100%}',
    '<div class="r"><div class="x"><p>One</p></div><div>Two</div></div>',
    '3:36  error  css-unsupported  height: 100%',
    /in px/,
  ],
  ['.x{padding:0 5vw}', row, '3:4  error  css-unsupported  padding: 0 5vw', /min\(5vw, 30px\)/],
  ['.x{text-overflow:ellipsis}', row, '3:4  error  css-unsupported  text-overflow: ellipsis', /a text that fits/],
  ['.r{display:flex}.r>div{flex:0.5}', row, '3:24  error  css-unsupported  flex: 0.5', /flex: 1/],
  [
    '.r{display:grid;grid-template-columns:auto auto}',
    row,
    '3:17  error  css-unsupported  grid-template-columns: auto auto',
    /repeat\(3, 1fr\)/,
  ],
  [
    '.y{line-height:24px}@media(max-width:480px){.y{display:inline-flex}}',
    '<p>Open <span class="y"><b>now</b> today</span></p>',
    '3:48  error  css-unsupported  display: inline-flex',
    /Within a line/,
  ],
  ['.r{display:grid}.x{grid-area:side}', row, '3:20  error  css-unsupported  grid-area: side', /Name an area/],
  [
    'a:not(:hover){color:red}',
    '<a href="#x">x</a>',
    '3:15  error  css-unsupported  color: red',
    /:hover on the element itself/,
  ],
  ['.r{display:flex}.x{flex:0.5}', row, '3:20  error  css-unsupported  flex: 0.5', /let one column grow: flex: 1/],
  ['p:active{color:red}', '<p>x</p>', '3:10  error  css-unsupported  color: red', /:hover on the element itself/],
  ['@container (min-width:9px){p{color:red}}', '<p>x</p>', '3:1  error  css-condition-unsupported', /@media/],
];

/** What costs no more than decoration, or asks for attention. */
const warned: Row[] = [
  [
    '.r{display:flex}.r>div{flex:1;background:#eee}@media (max-width:480px){.r{flex-direction:column}}',
    '<div class="r"><div>Woodworking</div><div>Two</div><div>Three</div><div>Four</div><div>Five</div></div>',
    '5:16  warning  column-squeezed  Where a client drops the head, this column is 72px wide on a phone',
    /fewer or wider columns/,
  ],
  ['p{box-shadow:0 0 2px red}', '<p>x</p>', '3:3  note  css-decoration-lost  box-shadow', /layout does not change/],
  ['p{font-family:Arial}', '<p>x</p>', '3:3  warning  font-no-generic', /sans-serif/],
  ['p{font-family:Blorb,serif}', '<p>x</p>', '3:3  warning  font-rare  Few readers have the font Blorb', /common font/],
  ['p{background:url(../assets/bg.png)}', '<p>x</p>', '3:3  warning  background-without-color', /background-color/],
];

let project: LayoutProject;
let output: string;

beforeAll(() => {
  const all = [...refused, ...warned];
  project = new LayoutProject(
    Object.fromEntries(all.map(([css, body], index) => [`m${index}`, layoutMessage(css, body)])),
  );
  output = project.build().err;
}, 60_000);

afterAll(() => project.remove());

describe('findings of the layout', () => {
  test.each([...refused, ...warned].map((entry, index) => [entry[0], index, entry] as const))(
    '%s',
    (_, index, [, , finding, fix]) => {
      const blocks = output
        .trim()
        .split('\n\n')
        .filter((block) => block.startsWith(`messages/m${index}.html:`));
      const block = blocks.find((candidate) => candidate.startsWith(`messages/m${index}.html:${finding}`));
      expect(block ?? blocks.join('\n')).toContain(finding);
      expect(block).toMatch(fix);
    },
  );
});

test('a condition that would need other tables is refused', () => {
  const other = new LayoutProject({
    a: layoutMessage(
      '@media (prefers-color-scheme:dark){.x{padding:9px;background:#000}}',
      '<div class="x"><p>One</p><p>Two</p></div><p>Three</p>',
    ),
  });
  const { code, err } = other.build();
  expect(code).toBe(1);
  expect(err).toMatch(/^messages\/a\.html:3:1 {2}error/);
  expect(err).toContain(
    'css-condition-layout  Under @media (prefers-color-scheme:dark) the message would need other tables',
  );
  other.remove();
});

test('web fonts are loaded for those who can, and named to the word engine', () => {
  const fonts = new LayoutProject({
    a: layoutMessage('h1{font-family:Karrik}h2{font:20px Karrik}', '<h1>x</h1><h2>y</h2>'),
  });
  fonts.folder.write({
    'inscriba.yaml':
      fonts.folder.read('inscriba.yaml') +
      'fonts: [{ family: Karrik, source: "https://type.alderlane.example/k.css", fallback: [Trebuchet MS, Arial, sans-serif] }]\n',
  });
  expect(fonts.build()).toMatchObject({ code: 0, err: '' });
  const html = fonts.html('a');
  expect(html.match(/font-family:Karrik,'Trebuchet MS',Arial,sans-serif/g)).toHaveLength(2);
  expect(html).toContain("@import url('https://type.alderlane.example/k.css');");
  expect(html).toContain(
    "<!--[if mso]><style>@font-face{font-family:Karrik;mso-font-alt:'Trebuchet MS'}</style><![endif]-->",
  );
  fonts.remove();
});

test('a dialect that refuses web fonts gets none', () => {
  const fonts = new LayoutProject({
    a: layoutMessage(
      '@font-face{font-family:K;src:url(https://a.example/k.woff2)}h1{font-family:K,serif}',
      '<h1>x</h1>',
    ),
  });
  fonts.folder.write({
    'dialects/plainface.yaml':
      "dialect: plainface\ntitle: Plainface\nverbatim: true\ndelimiters: [{ open: '@{', close: '}', quotes: true }]\nlimits: { web_fonts: false }\n",
    'inscriba.yaml': fonts.folder.read('inscriba.yaml').replace('dialect: neutral', 'dialect: plainface'),
  });
  expect(fonts.build().err).toContain('font-refused  Plainface refuses web fonts: K is not loaded there');
  expect(fonts.html('a')).not.toContain('@font-face');
  fonts.remove();
});
