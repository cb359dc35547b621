import { describe, expect, test } from '@jest/globals';
import { counted, kilobytes, listed, thousands } from '../../../src/core/text/amounts.js';
import { escapeRegExp } from '../../../src/core/text/escape-reg-exp.js';
import { percentDecoded } from '../../../src/core/text/percent-decoded.js';

test.each([
  [0, '0'],
  [999, '999'],
  [1000, '1,000'],
  [1234567, '1,234,567'],
])('%d with commas between its thousands', (count, text) => {
  expect(thousands(count)).toBe(text);
});

test('amounts in words', () => {
  expect([0, 1023, 42_200].map(kilobytes)).toEqual(['0.0 KB', '1.0 KB', '41.2 KB']);
  expect([0, 1, 2].map((count) => counted(count, 'link'))).toEqual(['0 links', '1 link', '2 links']);
  expect([[], ['one'], ['one', 'two'], ['one', 'two', 'three']].map(listed)).toEqual([
    '',
    'one',
    'one and two',
    'one, two and three',
  ]);
});

describe('texts that stand for others', () => {
  test.each([
    ['caf%C3%A9', 'café'],
    ['100%', '100%'],
    ['%E9', '%E9'],
    ['a+b', 'a+b'],
  ])('%s is %s without its percent-encoding', (text, decoded) => {
    expect(percentDecoded(text)).toBe(decoded);
  });

  test('as a regular expression a text matches itself alone', () => {
    const text = 'a.b*c(d)[e]{f}^$|\\?+';
    expect(new RegExp(`^${escapeRegExp(text)}$`).test(text)).toBe(true);
    expect(new RegExp(`^${escapeRegExp('a.b')}$`).test('axb')).toBe(false);
  });
});
