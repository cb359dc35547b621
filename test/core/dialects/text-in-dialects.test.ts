import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { judgeMail } from '../../support/mail-judge.js';
import { TestFolder } from '../../support/project.js';
import { languages, render } from '../../support/template-engines.js';

let folder: TestFolder;

const recipients: Readonly<Record<string, object>> = {
  ines: {
    first_name: 'Ines',
    branch: 'Mill Yard',
    vip: true,
    loans: [
      { tool: 'Drill', fee: '2.50' },
      { tool: 'Saw "A" & <B>', fee: '' },
    ],
  },
  odd: { first_name: `O'Neil & "Sons" <x>`, branch: '', vip: false, loans: [] },
  nobody: { first_name: null, branch: null, vip: null, loans: null },
};

const message = `<!doctype html>
<html lang="en"><head><title>Dear @{first_name ?? "reader"}</title></head><body>
<h1>For @{first_name ?? "a 'friend' & neighbour"}</h1>
<p>@{if vip}You go first.@{else}Wait & see.@{end} <a href="https://a.example/?who=@{first_name}&x=1">Your page</a></p>
@{if branch}<p>At @{branch}</p>@{else}<p>No branch: {{ this }} and {% that %}, @@{too}</p>@{end}
<table><tr><th>Tool</th><th>Fee</th></tr>
@{each loans as loan}<tr><td>@{loan.tool}</td><td>@{if loan.fee}@{loan.fee}@{else}none@{end}</td></tr>@{end}
</table>
<ul><li>one</li>@{each loans as loan}<li>@{loan.tool} again</li>@{else}<li>nothing at all</li>@{end}</ul>
</body></html>`;

beforeAll(() => {
  folder = new TestFolder().write({
    'inscriba.yaml': [
      'name: Texts',
      'sender: { name: Desk, address: desk@alderlane.example }',
      'fields:',
      '  first_name: { type: text }',
      '  branch: { type: text }',
      '  vip: { type: flag }',
      '  loans: { list: { tool: text, fee: text } }',
      // What looks like a tag of a language stands in the message on purpose.
      'checks: { tag-of-platform: off }',
      `samples: ${JSON.stringify(recipients)}`,
      `destinations: { ${[...languages, 'neutral'].map((name) => `${name}: { dialect: ${name} }`).join(', ')} }`,
    ].join('\n'),
    'messages/letter.html': message,
  });
  expect(folder.run(['build', '--quiet'])).toEqual({ code: 0, out: '', err: '' });
});

afterAll(() => folder.remove());

/** Words, without the lines of tables and addresses that are laid out before values are known. */
const words = (text: string): string[] => text.split(/[\s·]+/).filter((word) => /[^=-]/.test(word));

describe('the text version in a dialect, filled by the engine of its language, reads as the filled message', () => {
  test.each(languages)('%s', (language) => {
    const template = folder.read(`out/${language}/letter/index.txt`);
    for (const [name, data] of Object.entries(recipients)) {
      const draft = folder.run(['draft', 'letter', '--to', language, '--with', name]);
      expect([name, draft.code]).toEqual([name, 0]);
      const { text } = judgeMail(Buffer.from(draft.out));
      expect([name, words(render(language, template, data))]).toEqual([
        name,
        // A filled address is one word.
        words(text.replaceAll('%20', ' ')),
      ]);
    }
  });
});
