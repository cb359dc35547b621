import { describe, expect, test } from '@jest/globals';
import { invalidMedia } from '../../../src/core/css/cascade/media-validity.js';
import { readWidthCondition, splitCondition } from '../../../src/core/css/cascade/media.js';

describe('what a media query says of widths', () => {
  test.each<[query: string, holds: number[], fails: number[]]>([
    // As everybody writes them.
    ['(max-width: 600px)', [320, 599, 600], [601, 1000]],
    ['only screen and (max-width:480px)', [320, 480], [481, 1000]],
    ['screen and (min-width: 480px) and (max-width: 600px)', [480, 600], [479, 601]],
    ['(max-width: 480px), (min-width: 800px)', [480, 800], [481, 799]],
    ['only screen and (max-width:600px)and (min-width:300px)', [300, 600], [299, 601]],
    // Media Queries Level 4.
    ['(width <= 600px)', [600], [601]],
    ['(width = 600px)', [600], [599, 601]],
    ['(width: 600px)', [600], [599, 601]],
    ['(600px >= width)', [600], [601]],
    ['(400px < width <= 600px)', [401, 600], [400, 601]],
    ['not (max-width: 600px)', [601], [600]],
    ['not (not (max-width: 600px))', [600], [601]],
    ['((max-width: 600px)) or (min-width: 1000px)', [600, 1000], [601, 999]],
    ['(max-width: 480px) or ((min-width: 800px) and (max-width: 900px))', [480, 800, 900], [481, 901]],
    ['not screen and (max-width: 600px)', [601], [600]],
    ['(width)', [320, 1000], []],
    // Lengths of all kinds.
    ['(max-width: 37.5em)', [600], [601]],
    ['(max-width: 450PT)', [600], [601]],
    ['(max-width: calc(300px + 300px))', [600], [601]],
    ['(min-width: 0)', [320], []],
    ['(MAX-WIDTH : 600PX)', [600], [601]],
    ['(max-width: /* of a phone */ 600px)', [600], [601]],
  ])('%s', (query, holds, fails) => {
    const condition = readWidthCondition(query);
    const held = [...holds, ...fails].filter((width) => condition?.matches(width));
    expect(held).toEqual(holds);
    expect(invalidMedia(query)).toBe(null);
  });

  test.each([
    ['(max-width: 12ch)', 'how wide a digit is depends on the font'],
    ['(max-width: 50vw)', 'a share of the width itself'],
    ['(orientation: landscape)', 'another feature'],
    ['print', 'another medium'],
    ['(max-width: 600px) and (hover: hover)', 'a width beside another feature'],
  ])('%s is not decided by the width: %s', (query) => {
    expect(readWidthCondition(query)).toBe(null);
  });
});

describe('what a media query asks for beside the width', () => {
  test.each([
    ['(max-width: 600px) and (prefers-color-scheme: dark)', 600, '(prefers-color-scheme:dark)'],
    ['screen and (prefers-color-scheme: dark) and (width <= 600px)', 600, '(prefers-color-scheme:dark)'],
    ['print and (max-width: 600px)', 600, 'print'],
    ['(not (orientation: landscape)) and (max-width: 600px)', 600, '(not (orientation:landscape))'],
    ['only screen and (max-device-width: 480px)', 1000, '(max-device-width:480px)'],
    ['(hover: hover) or (pointer: fine)', 1000, '(hover:hover) or (pointer:fine)'],
  ])('%s', (query, widest, rest) => {
    const split = splitCondition(query);
    expect(split?.rest).toBe(rest);
    expect([widest, widest + 1].map((width) => split?.width.matches(width))).toEqual([true, widest === 1000]);
  });

  test.each([
    '(max-width: 600px) or (prefers-color-scheme: dark)',
    'not screen and (max-width: 600px) and (hover: hover)',
    '(max-width: 600px), (orientation: landscape)',
    '(not ((max-width: 600px) and (hover: hover)))',
  ])('%s cannot be told apart', (query) => {
    expect(splitCondition(query)).toBe(null);
  });
});

describe('a media query that no browser takes is told, with what it may have been', () => {
  test.each([
    ['screen and max-width: 600px', 'screen and (max-width: 600px)'],
    ['screen (max-width: 600px)', 'screen and (max-width: 600px)'],
    ['(max-width 600px)', '(max-width: 600px)'],
    ['(max-width: 600px) (min-width: 300px)', '(max-width: 600px) and (min-width: 300px)'],
    ['(max-width: 600px) and(min-width: 300px)', '(max-width: 600px) and (min-width: 300px)'],
    ['(max-widht: 600px)', '(max-width: 600px)'],
    [
      'screen and (max-width: 600px) or (max-width: 480px)',
      'screen and (max-width: 600px), screen and (max-width: 480px)',
    ],
    ['(max-width <= 600px)', null],
    ['(min-width: 300px) and (max-width: 600px) or (hover)', null],
    ['only (max-width: 600px)', null],
    ['layer', null],
    ['(max-width: 600px', null],
    ['not', null],
    ['not only screen', null],
    [`${'('.repeat(5000)}width${')'.repeat(5000)}`, null],
  ])('%s', (query, nearest) => {
    const invalid = invalidMedia(query);
    expect(invalid).not.toBe(null);
    expect(invalid?.nearest ?? null).toBe(nearest);
    expect(readWidthCondition(query)).toBe(null);
  });
});
