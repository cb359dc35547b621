import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { layoutMessage } from '../support/layout-message.js';
import { LayoutProject } from '../support/layout-project.js';

const messages: Readonly<Record<string, string>> = {
  round: layoutMessage(
    'a{display:inline-block;width:200px;height:40px;background:#06c;color:#fff;border-radius:20px;line-height:40px}',
    '<p><a href="https://alderlane.example/?a=1&amp;b=2">Borrow @{first_name}</a></p>',
  ),
  anchors: layoutMessage(
    '.b{padding:8px;background:#eee}',
    '<p><a href="#hours">Hours</a></p><h2 id="hours">Hours</h2><div class="b" id="unlinked">x</div>',
  ),
  carousel: layoutMessage(
    '.c{height:90px;background:#eee url(../assets/photo.png);animation:Turn 9s infinite}@keyframes Turn{50%{background-image:url("../assets/square.png")}}@keyframes Unused{to{color:red}}',
    '<div class="c" role="img" aria-label="Two pictures"></div>',
  ),
  table: layoutMessage(
    'td{padding:4px;color:#333}',
    '<table cellpadding="3"><thead><tr><th scope="col">Item</th></tr></thead><tbody><tr><td colspan="2">Saw</td></tr></tbody></table>',
  ),
  raw: layoutMessage(
    '.r{display:grid;position:relative;color:#123456}.r b{position:absolute}',
    '<section class="r" data-raw><b>x</b><div style="display:flex;float:left" align="center">y</div></section>',
  ),
  nothing: layoutMessage('', '<div><section><p>Words</p></section></div>'),
};

let project: LayoutProject;

beforeAll(() => {
  project = new LayoutProject(messages);
  project.folder.write({
    'inscriba.yaml': `${project.folder.read('inscriba.yaml')}fields: { first_name: { sample: Ines } }\nchecks: { engine-property: off }\n`,
  });
  expect(project.build()).toMatchObject({ code: 0, err: '' });
}, 60_000);

afterAll(() => project.remove());

describe('what is emitted', () => {
  test('where layout is switched off, elements stay what they are, with all their styles', () => {
    expect(project.html('raw')).toContain(
      '<section style="display:grid;position:relative;color:#123456"><b style="position:absolute">x</b><div align="center" style="display:flex;float:left">y</div></section>',
    );
  });

  test('a rounded button with a size is a shape for the word engine, with its link and its merge tag', () => {
    expect(project.html('round')).toContain(
      '<!--[if mso]><v:roundrect href="https://alderlane.example/?a=1&amp;b=2" style="width:200px;height:40px;v-text-anchor:middle" arcsize="50%" stroke="f" fillcolor="#0066cc">',
    );
    expect(project.html('round')).toMatch(
      /<center style="[^"]*color:#fff">Borrow @\{first_name\}<\/center><\/v:roundrect><!\[endif\]--><!--\[if !mso\]><!--><a href/,
    );
  });

  test('an element that links lead to has an anchor by name too', () => {
    expect(project.html('anchors')).toMatch(/<h2 id="hours" style="[^"]*"><a name="hours"><\/a>Hours<\/h2>/);
    expect(project.html('anchors')).not.toContain('name="unlinked"');
  });

  test('keyframes in use stay in the head, with the pictures where the package has them', () => {
    const html = project.html('carousel');
    expect(html).toMatch(/@keyframes Turn\{50%\{background-image:url\('images\/square-\w+\.png'\)\}\}/);
    expect(html).not.toContain('Unused');
    expect(html).toMatch(/<td role="img" aria-label="Two pictures"[^>]*animation:Turn 9s infinite/);
  });

  test('a hand-written table keeps its structure and attributes', () => {
    const table = /<table cellpadding[\s\S]*?<\/table>/.exec(project.html('table'))?.[0] ?? '';
    expect(table.replace(/ (?:style|align|valign|bgcolor)="[^"]*"|\n/g, '')).toBe(
      '<table cellpadding="3"><thead><tr><th scope="col">Item</th></tr></thead><tbody><tr><td colspan="2">Saw</td></tr></tbody></table>',
    );
  });

  test('blocks that show nothing of their own emit nothing', () => {
    const body = project.html('nothing').split('<body')[1] ?? '';
    expect(body.match(/<table/g)).toHaveLength(1);
    expect(body).not.toMatch(/<(?:div|section)/);
  });
});
