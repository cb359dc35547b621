import { expect, test } from '@jest/globals';
import { SourceText } from '../../src/core/text/source-text.js';
import { tableShape } from '../../src/project/editor/table-shape.js';

/** The columns of a table as an editor knows them: where each is named, and its first value. */
function columns(csv: string): (readonly [name: string, offset: number | undefined, sample: string | null])[] {
  const { item } = tableShape(new SourceText('tools.csv', csv), 'data:tools.csv#tools', 'tools');
  return [...(item?.fields.values() ?? [])].map(({ name, places, sample }) => [name, places[0]?.span.start, sample]);
}

test.each<[string, string, ReturnType<typeof columns>]>([
  [
    'commas',
    'name,loan days\nSaw,14\n',
    [
      ['name', 0, 'Saw'],
      ['loan_days', 5, '14'],
    ],
  ],
  [
    'tabs',
    'name\tdays\nSaw\t14\n',
    [
      ['name', 0, 'Saw'],
      ['days', 5, '14'],
    ],
  ],
  [
    'semicolons, with a comma in a name',
    'name;days, hours;fee\nSaw;14, 2;3\n',
    [
      ['name', 0, 'Saw'],
      ['days_hours', 5, '14, 2'],
      ['fee', 17, '3'],
    ],
  ],
  [
    'commas, with a semicolon in a name',
    'name,fee; a day,days\nSaw,3,14\n',
    [
      ['name', 0, 'Saw'],
      ['fee_a_day', 5, '3'],
      ['days', 16, '14'],
    ],
  ],
  [
    'names in quotes',
    '"name","days, at most"\nSaw,14\n',
    [
      ['name', 1, 'Saw'],
      ['days_at_most', 8, '14'],
    ],
  ],
  [
    'nothing below the names',
    'name,days\n',
    [
      ['name', 0, null],
      ['days', 5, null],
    ],
  ],
])('the columns of a table are parted by %s', (_, csv, expected) => {
  expect(columns(csv)).toEqual(expected);
});
