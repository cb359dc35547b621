import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { dialectAbilities } from '../../../src/core/dialects/file/describe-dialect.js';
import type { Dialect } from '../../../src/core/dialects/dialect.js';
import { declaredItemShape } from '../../../src/core/dialects/field-shape.js';
import type { MergeField, MergeFields } from '../../../src/core/dialects/model.js';
import { failedSamples, fromNeutral, toNeutral } from '../../../src/core/dialects/file/prove-dialect.js';
import { dialectNames, loadDialect } from '../../../src/project/config/dialects.js';
import { repository } from '../../support/project.js';

/** The dialects that ship lie beside the sources. */
const names = (await dialectNames(repository)).filter((name) => name !== 'neutral');
const dialects = new Map<string, Dialect>();
for (const name of names) {
  const { dialect } = await loadDialect(name, repository);
  if (dialect !== null) dialects.set(name, dialect);
}

const dialectOf = (name: string): Dialect => dialects.get(name) ?? fail(name);

function fail(name: string): never {
  throw new Error(`${name} cannot be loaded.`);
}

const field = (type: MergeField['type'], rest: Partial<MergeField> = {}): MergeField => ({
  type,
  sample: null,
  fallback: null,
  ...rest,
});

/** What a project would declare of the fields that the texts use. */
const fields: MergeFields = new Map([
  ...['first_name', 'story', 'branch', 'due'].map((name) => [name, field('text')] as const),
  ['vip', field('flag')],
  ['points', field('number')],
  ['loans', field('list', { item: declaredItemShape({ tool: 'text' }) })],
]);

/** What every dialect can say, and what the given ones can as well. */
function sayable(...chosen: readonly Dialect[]): string[] {
  const lists = chosen.map((dialect) => dialectAbilities(dialect));
  const [first = []] = lists;
  return (
    first
      .filter(({ neutral }) =>
        lists.every((list) => list.some((own) => own.neutral === neutral && own.written !== null && own.isExact)),
      )
      .map(({ neutral }) => neutral)
      .filter((neutral) => !neutral.startsWith('@{#'))
      // A language that does not name the items gives them a name of their list's.
      .map((neutral) => neutral.replace('as x}', 'as loan}').replace('@{x.', '@{loan.'))
  );
}

/** Texts of tags with words between them, nested as blocks may be. */
function textsOf(pieces: readonly string[]): fc.Arbitrary<string> {
  const words = fc.constantFrom('', ' ', 'Hello', ' the lathe, ', '\n', '<b>x</b>', '£3 & 4');
  const piece = fc.constantFrom(...pieces);
  const { text } = fc.letrec<{ text: string; item: string }>((tie) => ({
    item: fc
      .tuple(piece, fc.oneof({ depthSize: 'small' }, words, tie('text')))
      .map(([written, inside]) => written.replace('…', () => inside)),
    text: fc
      .array(fc.oneof({ depthSize: 'small' }, words, tie('item')), { maxLength: 5 })
      .map((items) => items.join('')),
  }));
  // Where a block ends and one on the opposite begins, a language may read both together as "else".
  return text.filter((written) => !written.includes('…') && !/@@|@\{end\}@\{if not/.test(written));
}

describe('dialects that ship', () => {
  test('are the six platforms and the four languages', () => {
    expect(names.sort()).toEqual([
      'bellmoor',
      'ferrywire',
      'gannetry',
      'handlebars',
      'jinja',
      'larkfold',
      'liquid',
      'mustache',
      'oxbow',
      'tansy',
    ]);
  });

  test.each(names)('%s writes and reads its samples', (name) => {
    expect(dialectOf(name).samples.length).toBeGreaterThan(1);
    expect(failedSamples(dialectOf(name))).toEqual([]);
  });

  test.each(names)('%s → neutral → %s gives the same bytes', (name) => {
    const dialect = dialectOf(name);
    fc.assert(
      fc.property(textsOf(sayable(dialect)), (neutral) => {
        const written = fromNeutral(neutral, dialect, fields);
        expect(fromNeutral(toNeutral(written, dialect, fields), dialect, fields)).toBe(written);
      }),
      { numRuns: 150 },
    );
  });

  const pairs = names.flatMap((a) => names.filter((b) => b !== a).map((b) => [a, b] as const));

  test.each(pairs)('%s → %s → back gives the same bytes, for what both can say', (a, b) => {
    const [first, second] = [dialectOf(a), dialectOf(b)];
    fc.assert(
      fc.property(textsOf(sayable(first, second)), (neutral) => {
        const written = fromNeutral(neutral, first, fields);
        const there = fromNeutral(toNeutral(written, first, fields), second, fields);
        expect(fromNeutral(toNeutral(there, second, fields), first, fields)).toBe(written);
      }),
      { numRuns: 30 },
    );
  });
});
