import { afterEach, describe, expect, test } from '@jest/globals';
import { atOrigin, type Finding } from '../../src/core/findings/finding.js';
import { loadConfig } from '../../src/project/config/config.js';
import { planVisit } from '../../src/project/visit/choose-messages.js';
import { PicturePlacer } from '../../src/project/visit/place-pictures.js';
import { renderEdition } from '../../src/project/visit/render-edition.js';
import { visitMessage } from '../../src/project/visit/visit-messages.js';
import { projectOf } from '../support/parts-project.js';
import type { TestFolder } from '../support/project.js';
import { Random } from '../support/random.js';

let folder: TestFolder;

afterEach(() => folder.remove());

/** An edition as it is written, and what is said of it. */
interface Written {
  readonly name: string | null;
  readonly html: string;
  readonly text: string;
  readonly facts: string;
  readonly findings: readonly Finding[];
}

/** The editions of a message, and how many of them were compiled by themselves. */
interface Visited {
  readonly editions: readonly Written[];
  readonly own: readonly string[];
  readonly alone: number;
}

const told = (items: readonly Finding[]): string[] =>
  items.map(atOrigin).map(({ code, data, place }) => JSON.stringify([code, data, place?.source.name, place?.span]));

/** Compiles the editions of `notice`, so many of them by themselves. */
async function visited(byThemselves: number): Promise<Visited> {
  const { config } = await loadConfig(folder.path);
  if (config === null) throw new Error('There is no configuration.');
  const request = { config, messages: [], destinations: [] };
  const plan = await planVisit(request, { takesEditions: false, targets: (targets) => targets }, () => undefined);
  const [message] = plan?.messages ?? [];
  if (plan === null || message === undefined) throw new Error('There is no message.');
  const docs = new Set<unknown>();
  const { outcomes, own } = await visitMessage<Written>(
    plan,
    message,
    { placer: new PicturePlacer(config, {}), progress: () => undefined, block: null, byThemselves },
    {
      failed: (_, name) => ({ name, html: '', text: '', facts: '', findings: [] }),
      visit: async (task, ready, target) => {
        docs.add(ready.versions.html.declared.rules);
        const findings: Finding[] = [];
        const done = await renderEdition(task, ready, target, 'images', (item) => findings.push(item));
        const { html = '', text = '' } = done?.rendered ?? {};
        return {
          name: ready.edition.name,
          html,
          text,
          facts: JSON.stringify([done?.facts, told(findings)]),
          findings: [],
        };
      },
    },
  );
  return { editions: outcomes, own: [...new Set(told(own))].sort(), alone: docs.size };
}

type Row = Readonly<Record<'name' | 'one' | 'two' | 'flag', string>>;

function projectWith(body: string, rows: readonly Row[], { head = '', sheet = '' } = {}): void {
  folder = projectOf({
    'data/rows.json': JSON.stringify(rows.map((item) => ({ ...item, list: [item.two, 'y'] }))),
    'messages/notice.html': `<!doctype html><html lang="en"><head><title>For \${one}</title>
<meta name="preheader" content="Now \${two}"><meta name="editions" content="../data/rows.json"><style>${sheet}</style>${head}</head>
<body>${body}</body></html>`,
  });
}

const row = (name: string, one: string, two = 'Ines', flag = ''): Row => ({ name, one, two, flag });

describe('editions that differ in texts', () => {
  const plain = [
    row('a', 'Alder Lane'),
    row('b', 'Mill Yard', 'Tomas & Wen'),
    row('c', 'Station "Arches"', "O'Hara <x>"),
  ];

  test('are compiled once for all of a shape, and come out as each by itself does', async () => {
    projectWith(
      '<h1>${one}</h1><p title="${two}">At <a href="https://a.example/?at=${one | url}&b=1">${two}</a>.</p>',
      [...plain, row('d', 'x', 'y')],
    );
    const alone = await visited(Infinity);
    const shared = await visited(0);
    expect(shared.editions).toEqual(alone.editions);
    expect([alone.alone, shared.alone]).toEqual([4, 2]);
  });

  test('a condition makes another shape', async () => {
    projectWith('<p>${one}</p><template if="flag"><p>More: ${two}</p></template>', [
      ...plain,
      ...plain.map((item) => ({ ...item, name: `${item.name}2`, flag: 'yes' })),
    ]);
    const alone = await visited(Infinity);
    const shared = await visited(0);
    expect(shared.editions).toEqual(alone.editions);
    expect(shared.alone).toBe(4);
  });

  test('are compiled one by one where a layout depends on their length', async () => {
    const sheet = '.row{display:flex;gap:10px}.row>p{margin:0}';
    projectWith('<div class="row"><p>${one}</p><p>${two}</p></div>', plain, { sheet });
    const alone = await visited(Infinity);
    expect(await visited(0)).toEqual(alone);
  });

  test('are compiled one by one where rules ask for their attributes', async () => {
    const sheet = 'a[href*="mill"]{color:#b0302a}';
    const links = ['alder', 'mill', 'arches', 'mill-2'].map((one, index) => row(`n${index}`, one));
    projectWith('<p><a href="https://a.example/${one}">See</a></p>', links, { sheet });
    const alone = await visited(Infinity);
    const shared = await visited(0);
    expect(shared).toEqual(alone);
    expect(shared.editions.map(({ html }) => html.includes('#b0302a'))).toEqual([false, true, false, true]);
  });

  test('markup, white space and what looks like a tag are no plain texts', async () => {
    const odd = [
      '',
      ' ',
      'a  b',
      '<b>x</b>',
      '@{x}',
      '{',
      'at @',
      '\u05e9\u05dc\u05d5\u05dd',
      'a\u00a0b',
      '\ue000\ue002',
    ];
    projectWith(
      '<p>${one}</p><p>@${one}{x}</p>',
      odd.map((one, index) => row(`n${index}`, one)),
    );
    expect((await visited(0)).editions).toEqual((await visited(Infinity)).editions);
  });

  test('random messages with random rows are the same either way', async () => {
    const seeds = Array.from({ length: Number(process.env['INSCRIBA_RANDOM_EDITIONS'] ?? 8) }, (_, seed) => seed);
    let shared = 0;
    for (const seed of seeds) {
      const random = new Random(seed);
      const isPlain = random.chance(0.6);
      const body = Array.from({ length: random.between(2, 7) }, () =>
        random.pick(isPlain ? bodies : [...bodies, ...oddBodies]),
      ).join('\n');
      const oddShare = isPlain ? 0 : 0.2;
      const value = (): string =>
        random.pick(random.chance(oddShare) ? oddValues : isPlain ? shortValues : [...shortValues, ...longValues]);
      const rows = Array.from({ length: 16 }, (_, index) =>
        row(`n${index}`, value(), value(), random.pick(['', '', 'yes'])),
      );
      projectWith(body, rows, { sheet: random.pick(isPlain ? sheets.slice(0, 2) : sheets) });
      const alone = await visited(Infinity);
      const together = await visited(0);
      expect({ seed, body, editions: together.editions }).toEqual({ seed, body, editions: alone.editions });
      expect({ seed, body, own: together.own }).toEqual({ seed, body, own: alone.own });
      shared += alone.alone - together.alone;
      folder.remove();
    }
    expect(shared).toBeGreaterThan(4 * seeds.length);
  });
});

const shortValues = [
  ...['Alder Lane', 'Mill Yard', 'x', '9 to 18', 'A & B', '"quoted"', "it's", '100 %', 'é à ü', 'Ω β', 'Привет мир'],
  ...['3 < 4 > 2', '#map', '--> ]]>', '{{x}} [% y %]', '🙂 ok'],
];

const longValues = [
  ...['https://b.example/?a=1&b=2', 'mailto:a@b.example', 'Donaudampfschiffahrtsgesellschaft'],
  ...['Arch 7 of the old station, behind the mill and over the bridge'],
];

const oddValues = [
  ...[
    '',
    ' ',
    'a  b',
    ' lead',
    'trail ',
    '<b>bold</b>',
    '<p>',
    '@{first_name}',
    '@',
    '{x}',
    '@@{',
    '\u05e9\u05dc\u05d5\u05dd',
  ],
  ...['漢字かな', 'a\u00a0b', 'a\u00adb', 'a\u200bb', '\ue000\ue002', '&amp;', '&nbsp;x', 'a\nb', 'x'.repeat(300)],
];

const sheets = [
  '',
  'h1{font-size:40px}p{margin:0 0 8px}.row{display:flex;gap:8px}.grid{display:grid;grid-template-columns:1fr 1fr}',
  'p:empty{display:none}a[href^="https"]{color:#b0302a}.row{display:flex;flex-wrap:wrap}.box{width:120px;height:40px;overflow:hidden}',
  '[title~="Mill"]{color:#103050}.row>*{flex:1}.row{display:flex}p::before{content:attr(title)}p:dir(rtl){color:#b0302a}',
];

/** Of these nothing depends on what the texts are. */
const bodies = [
  '<h1>${one}</h1>',
  '<p>${one} and ${two}, ${one}.</p>',
  '<p>${one}${two}</p>',
  '<p> ${one} </p>',
  '<p title="${one}">titled</p>',
  '<p><a href="https://a.example/${one | url}?b=${two | url}">${two}</a></p>',
  '<p><a href="${two}"><img src="https://a.example/x.png" width="40" height="20" alt="${one}"></a></p>',
  '<table><tr><th>${one}</th><td>${two}</td></tr><tr><th>Two</th><td>3</td></tr></table>',
  '<ul><li>${one}</li><li>two</li></ul><pre>${two}  x</pre>',
  '<template if="flag"><p>flag ${one}</p></template><template else><p>none</p></template>',
  '<template each="letter of list"><p>${letter} ${one}</p></template>',
  '<template for="text"><p>text ${one}</p></template><template for="html"><p>html ${two}</p></template>',
];

const oddBodies = [
  '<p>@${one}{first_name}@{first_name}${two}</p>',
  '<p>${+one}</p>',
  '<p title=${one}>titled</p>',
  '<p class="${two}">classed</p>',
  '<p style="color:#${two}">styled</p>',
  '<p><a href="${one}">${one}</a></p>',
  '<div class="row"><p>${one}</p><p>${two}</p></div>',
  '<div class="grid"><div>${one}</div><div>fixed</div></div>',
  '<div class="box">${one}</div>',
  '<template for="word"><p>word ${one}</p></template>',
  '<p data-text="${one}">said</p>',
  '<p>@{first_name ?? "${one}"}</p>',
  '<p dir="auto">${two}</p><!-- ${one} -->',
  '<p>@{if first_name == "${two}"}${one}@{else}x@{end}</p>',
  '<p><button type="button">${one}</button><svg><text>${two}</text></svg></p>',
];
