import { expect, test } from '@jest/globals';
import { plainPaint, renderFinding } from '../../../src/core/findings/code-frame.js';
import { exitCodeOf, finding } from '../../../src/core/findings/finding.js';
import { parseHtml } from '../../../src/core/html/parse.js';
import { checkStructure } from '../../../src/core/html/structure/structure.js';
import { nearestName } from '../../../src/core/text/nearest.js';
import { applyEdits } from '../../../src/core/text/apply-edits.js';
import { SourceText } from '../../../src/core/text/source-text.js';
import { Random } from '../../support/random.js';

const measure = (text: string): number => [...text].length;

test('lines end with LF, CRLF or CR, and columns count characters', () => {
  const source = new SourceText('x', 'a\r\nb🛠c\rd\n');
  expect([0, 3, 6, 8, 10, 99].map((offset) => Object.values(source.lineColumn(offset)).join(':'))).toEqual([
    '1:1',
    '2:1',
    '2:3',
    '3:1',
    '4:1',
    '4:1',
  ]);
  expect([1, 2, 3, 4, 5].map((line) => source.lineText(line))).toEqual(['a', 'b🛠c', 'd', '', '']);
});

test('edits are applied at once, in order; those that overlap are handed back', () => {
  const edit = (start: number, end: number, text: string): { span: { start: number; end: number }; text: string } => ({
    span: { start, end },
    text,
  });
  expect(applyEdits('abcdef', [edit(4, 5, 'X'), edit(0, 1, ''), edit(2, 2, '1'), edit(2, 2, '2')])).toEqual({
    text: 'b12cdXf',
    rejected: [],
  });
  const clash = edit(1, 3, 'y');
  expect(applyEdits('abcdef', [edit(0, 2, 'x'), clash])).toEqual({ text: 'xcdef', rejected: [clash] });
});

test('a finding shows its place, a frame around it, and what to do', () => {
  const source = new SourceText('m.html', `<p>\n${' '.repeat(150)}\t@{nam}${'x'.repeat(90)}`);
  const item = finding(
    'unknown-field',
    { source, span: { start: 157, end: 160 } },
    { name: 'nam', advice: 'Did you mean "name"?' },
  );
  const lines = renderFinding(item, { paint: plainPaint, width: measure, nameOf: (name) => name }).split('\n');
  expect(lines[0]).toBe('m.html:2:154  error  unknown-field  No field is called nam');
  expect(lines[2]?.indexOf('^^^')).toBe(lines[1]?.indexOf('nam'));
  expect(lines[3]).toBe('  fix: Did you mean "name"?');
  expect([
    exitCodeOf([item]),
    exitCodeOf([finding('unknown-message', null)]),
    exitCodeOf([]),
    exitCodeOf([finding('style-long', null)]),
    exitCodeOf([finding('style-long', null)], true),
  ]).toEqual([1, 2, 0, 0, 1]);
});

test('what stands around a place on its line is cut where there is much of it', () => {
  const source = new SourceText('x', `first\r\n${'a'.repeat(30)}🛠${'b'.repeat(30)}\nlast`);
  expect(source.aroundOnLine(39, 5)).toEqual({ before: 'aaa🛠', behind: 'bbbbb' });
  expect(source.aroundOnLine(2, 99)).toEqual({ before: 'fi', behind: 'rst' });
  expect(source.aroundOnLine(source.text.length, 99)).toEqual({ before: 'last', behind: '' });
  expect(source.aroundOnLine(7, 3)).toEqual({ before: '', behind: 'aaa' });
});

test('the carets of a frame stand under what is wrong, however long the line is', () => {
  const random = new Random(3);
  const characters = ['a', 'b', ' ', 'é', '🛠', '<', '"'];
  for (let round = 0; round < 400; round += 1) {
    const line = Array.from({ length: random.between(1, 3000) }, () => random.pick(characters));
    const from = random.below(line.length);
    const to = Math.min(line.length, from + random.between(1, 40));
    const text = ['above', line.join(''), 'below'].join('\n');
    const start = 6 + line.slice(0, from).join('').length;
    const place = { source: new SourceText('x', text), span: { start, end: 6 + line.slice(0, to).join('').length } };
    const item = finding('tag-unknown', place, { tag: 'x', dialect: 'y' });
    const [, frame = '', carets = ''] = renderFinding(item, {
      paint: plainPaint,
      width: measure,
      nameOf: (name) => name,
    }).split('\n');
    const at = carets.indexOf('^');
    const marked = [...frame].slice(at, carets.length).join('');
    expect(carets.trimStart()).toMatch(/^\^+$/);
    expect(line.slice(from, to).join('').startsWith(marked.trimEnd())).toBe(true);
    // A line of the source, its number and what tells that it was cut.
    expect([...frame].length).toBeLessThanOrEqual(100 + '  2 | '.length + 2);
    expect(frame.startsWith('  2 | …')).toBe(from > 80);
  }
});

test('the nearest name is near', () => {
  const known = ['first_name', 'branch', 'points'];
  expect(['frist_name', 'branhc', 'point', 'x', 'first_nmae_'].map((name) => nearestName(name, known))).toEqual([
    'first_name',
    'branch',
    'points',
    null,
    'first_name',
  ]);
});

const structures: [string, string[]][] = [
  ['<p>a<p>b<ul><li>c<li>d</ul><table><tr><td>x</table><br><img src=x>', []],
  ['<div><b>a</div>', ['unclosed-tag <b> 1:6']],
  ['<div>a', ['unclosed-tag <div> 1:1']],
  ['a</b></p>', ['stray-end-tag </b> 1:2', 'stray-end-tag </p> 1:6']],
  ['<a href="x" href="y">z</a>', ['markup-broken href 1:13']],
  ['<!-- </b> --><style>a::after{content:"</i>"}</style><a title="</u>">x</a>', []],
];

test.each(structures)('the structure of %s', (html, expected) => {
  const source = new SourceText('x', html);
  const { doc, errors } = parseHtml(source, []);
  const found = checkStructure(doc, errors).map(({ code, place }) => {
    const { line, column } = source.lineColumn(place?.span.start ?? 0);
    return `${code} ${source.slice(place?.span ?? { start: 0, end: 0 })} ${line}:${column}`;
  });
  expect(found).toEqual(expected);
});
