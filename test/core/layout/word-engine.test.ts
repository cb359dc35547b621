import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { layoutDocument } from '../../support/layout-documents.js';
import { fixtureNames, LayoutProject } from '../../support/layout-project.js';
import { TestFolder } from '../../support/project.js';
import { wordProblems, wordView } from '../../support/word-view.js';

let project: LayoutProject;
let demo: TestFolder;

const generated = Array.from({ length: 10 }, (_, index) => index + 1);
const built = fixtureNames.filter((name) => !/^x2?-(?:minwidth-auto-longword|auto-basis-shrink)$/.test(name));

beforeAll(() => {
  project = LayoutProject.ofFixtures();
  for (const seed of generated) project.folder.write({ [`messages/layouts-${seed}.html`]: layoutDocument(seed, 8) });
  project.build();
  demo = TestFolder.builtDemo();
}, 60_000);

afterAll(() => {
  project.remove();
  demo.remove();
});

describe('what the word engine gets', () => {
  test.each(built)('%s is closed tables whose widths add up', (name) => {
    expect(wordProblems(project.html(name))).toEqual([]);
  });

  test.each(generated)('so are the generated layouts of seed %d', (seed) => {
    expect(wordProblems(project.html(`layouts-${seed}`))).toEqual([]);
  });

  test.each(['may-newsletter', 'parts-specimen', 'repair-day', 'loans-due', 'membership-receipt'])(
    'so is %s',
    (name) => {
      expect(wordProblems(demo.read(`out/archive/${name}/index.html`))).toEqual([]);
    },
  );

  test('line heights are exact, and a background picture is a shape around the content', () => {
    const view = wordView(project.html('j-bgimage'));
    expect(view).toContain('mso-line-height-rule:exactly');
    expect(view).toContain('xmlns:v="urn:schemas-microsoft-com:vml"');
    expect(view).toMatch(
      /<v:rect fill="true" stroke="false" style="width:600px"><v:fill type="frame" src="images\/bg-\w+\.png" color="#112233"\/>/,
    );
    expect(view).toMatch(/inset="24px,48px,24px,48px"><div>\s*<h1[\s\S]*<\/div><\/v:textbox><\/v:rect>/);
  });
});
