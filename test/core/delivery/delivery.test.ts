import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { printDeliveries, readDeliveries, type Delivery } from '../../../src/core/delivery/deliveries.js';
import { filledRequest } from '../../../src/core/delivery/fill-request.js';
import { pointedAt } from '../../../src/core/delivery/json-pointer.js';
import { failedExchanges } from '../../../src/core/delivery/prove-exchanges.js';
import { itemsOf, refusalOf, takenOf } from '../../../src/core/delivery/read-answer.js';
import { shownRequest } from '../../../src/core/delivery/show-request.js';
import { filledText, filledValue } from '../../../src/core/delivery/values.js';
import type { Exchange } from '../../../src/core/dialects/push-api.js';
import { platformNames, shippedDialect } from '../../support/platforms.js';

const exchange: Exchange = {
  method: 'POST',
  path: '/letters',
  headers: {},
  body: 'json',
  send: null,
  file: null,
  pictures: null,
  take: {},
  items: null,
  next: null,
};

// The examples of RFC 6901, 5.
test.each<[string, unknown]>([
  ['/foo', ['bar', 'baz']],
  ['/foo/0', 'bar'],
  ['/', 0],
  ['/a~1b', 1],
  ['/c%d', 2],
  ['/e^f', 3],
  ['/g|h', 4],
  ['/i\\j', 5],
  ['/k"l', 6],
  ['/ ', 7],
  ['/m~0n', 8],
  ['/foo/01', undefined],
  ['/foo/-', undefined],
  ['/toString', undefined],
])('the pointer %j', (pointer, value) => {
  const document = {
    foo: ['bar', 'baz'],
    '': 0,
    'a/b': 1,
    'c%d': 2,
    'e^f': 3,
    'g|h': 4,
    'i\\j': 5,
    'k"l': 6,
    ' ': 7,
    'm~n': 8,
  };
  expect(pointedAt(document, pointer)).toEqual(value);
  expect(pointedAt(document, '')).toBe(document);
});

describe('a request', () => {
  const values = new Map<string, string | number | null | readonly string[]>([
    ['message.name', 'may & june/2'],
    ['message.keywords', ['a', 'b']],
    ['message.topic', null],
    ['message.size', 3],
  ]);

  test('a text that is one name becomes the value itself', () => {
    const send = {
      name: '${message.name}',
      about: 'on ${message.name}',
      tags: '${message.keywords}',
      topic: '${message.topic}',
      deep: [{ n: '${message.size}' }],
      fixed: true,
    };
    expect(filledValue(send, values)).toEqual({
      name: 'may & june/2',
      about: 'on may & june/2',
      tags: ['a', 'b'],
      topic: null,
      deep: [{ n: 3 }],
      fixed: true,
    });
  });

  test('what fills a path is percent-encoded, and nothing is filled twice', () => {
    const filled = filledRequest(
      { headers: {}, signIn: { kind: 'none' } },
      { ...exchange, path: '/l?n=${message.name}' },
      values,
    );
    expect(filled.path).toBe('/l?n=may%20%26%20june%2F2');
    expect(
      filledText(
        '${a}',
        new Map([
          ['a', '${b}'],
          ['b', 'no'],
        ]),
      ),
    ).toBe('${b}');
  });

  test('a form has a field for each entry of a list, and none for what is null', () => {
    const filled = filledRequest(
      { headers: { a: '1' }, signIn: { kind: 'basic', user: 'ü', password: 'p' } },
      { ...exchange, body: 'form', send: { tag: '${message.keywords}', topic: '${message.topic}' } },
      values,
    );
    expect(filled.body).toEqual({
      kind: 'form',
      fields: [
        ['tag', 'a'],
        ['tag', 'b'],
      ],
    });
    expect(filled.headers).toEqual({ a: '1', authorization: 'Basic w7w6cA==' });
    expect(shownRequest(filled, 'https://there.example/')).toBe(
      'POST https://there.example/letters\n  a: 1\n  authorization: Basic w7w6cA==\n  content-type: application/x-www-form-urlencoded\n  tag = a\n  tag = b\n',
    );
  });
});

describe('an answer', () => {
  test('is taken by pointers; what is needed has to be there', () => {
    const take = { id: '/a/0/id', link: '/link' };
    expect([...(takenOf({ a: [{ id: 7 }], link: null }, { take }, ['id']).taken ?? [])]).toEqual([['id', '7']]);
    expect(takenOf({}, { take }, ['id']).problem).toBe('/a/0/id holds nothing');
    expect(itemsOf({ all: 'x' }, { ...exchange, items: '/all' }, []).problem).toBe(
      '/all holds the string "x", and no list',
    );
  });

  test('that refuses says why, in one line', () => {
    expect(refusalOf({ why: 'No\n  footer.' }, '/why')).toBe('No footer.');
    expect(refusalOf({ why: ['One.', 'Two.'] }, '/why')).toBe('One.; Two.');
    expect(refusalOf({ why: {} }, '/why')).toBeNull();
    expect(refusalOf('text', null)).toBeNull();
  });
});

describe('recorded exchanges', () => {
  test.each(platformNames)('prove the interface of %s, and an interface that differs is found out', (name) => {
    const dialect = shippedDialect(name);
    expect(dialect.exchanges.length).toBeGreaterThan(4);
    expect(failedExchanges(dialect)).toEqual([]);
    const { push } = dialect;
    if (push === null) throw new Error(name);
    const other = { ...push, create: { ...push.create, path: '/elsewhere' }, errorMessage: '/nowhere', read: null };
    const found = failedExchanges({ ...dialect, push: other });
    expect(found.map(({ detail }) => detail)).toEqual(
      expect.arrayContaining([expect.stringContaining('/elsewhere'), 'it makes no request called read']),
    );
  });
});

const name = fc.stringMatching(/^[a-zé][a-z -]{0,8}$/u);
const digest = fc.option(fc.stringMatching(/^[\da-f]{8}$/), { nil: null });
const delivery: fc.Arbitrary<Delivery> = fc.record({
  destination: name,
  message: name,
  edition: fc.option(name, { nil: null }),
  id: fc.option(fc.string(), { nil: null }),
  link: fc.option(fc.webUrl(), { nil: null }),
  sent: digest,
  there: digest,
  pending: digest,
  source: fc.string(),
});

describe('the record of deliveries', () => {
  test('reads what it prints, in an order that does not depend on that of the pushes', () => {
    const key = ({ destination, message, edition }: Delivery): string =>
      JSON.stringify([destination, message, edition]);
    fc.assert(
      fc.property(fc.uniqueArray(delivery, { selector: key }), (deliveries) => {
        const text = printDeliveries({ deliveries, pictures: [{ destination: 'a', picture: 'b', address: null }] });
        const record = readDeliveries(text, () => null);
        expect([...(record?.deliveries ?? [])].sort((a, b) => (key(a) < key(b) ? -1 : 1))).toEqual(
          [...deliveries].sort((a, b) => (key(a) < key(b) ? -1 : 1)),
        );
        expect(printDeliveries({ deliveries: [...deliveries].reverse(), pictures: record?.pictures ?? [] })).toBe(text);
      }),
    );
  });

  test.each([
    ['', 'Unexpected end of JSON input'],
    ['{}', 'it is no list'],
    ['[]', 'its format is null, and not 1'],
    ['[1]', 'it holds 1'],
    ['[{"message":"a"}]', 'an entry has no destination: {"message":"a"}'],
    ['[{"destination":"a"},{"format":1}]', 'an entry has neither message nor picture: {"destination":"a"}'],
    ['[{"format":2}]', 'its format is 2, and not 1'],
    ['<<<<<<< HEAD\n[]', 'it holds the marks of a merge'],
  ])('is told where it is none: %s', (text, detail) => {
    const told: string[] = [];
    const refuse = (words: string): null => {
      told.push(words);
      return null;
    };
    expect(readDeliveries(text, refuse)).toBe(null);
    expect(told).toEqual([detail]);
  });
});
