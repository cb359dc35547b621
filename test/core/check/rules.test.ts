import { describe, expect, test } from '@jest/globals';
import { allRules } from '../../../src/core/check/all-rules.js';
import { ruleCodes } from '../../../src/core/check/rule-codes.js';
import { catalogue } from '../../../src/core/findings/catalogue.js';
import { reasonOf, fixOf } from '../../../src/core/findings/finding.js';
import { checkExample } from '../../support/check-page.js';

describe('each rule', () => {
  test.each(allRules.map((rule) => [rule.code, rule] as const))('%s: its examples', (code, { bad, good }) => {
    const told = checkExample(bad).filter((item) => item.code === code);
    expect(told.length).toBeGreaterThan(0);
    for (const item of told) {
      // No hole of a sentence is left open.
      expect(`${reasonOf(item)} ${fixOf(item)}`.replace(/@\{/g, '')).not.toMatch(/\{\w+\}/);
      expect(fixOf(item)).toMatch(/[.:>?]$/);
    }
    expect(checkExample(good).map((item) => `${item.code}: ${reasonOf(item)}`)).toEqual([]);
  });

  test('has a code and a name of its own, two sentences for the reader, and is listed', () => {
    const codes = allRules.map(({ code }) => code);
    expect(codes).toEqual([...ruleCodes]);
    expect(codes.length).toBeGreaterThanOrEqual(70);
    expect(codes.filter((code) => Object.hasOwn(catalogue, code))).toEqual([]);
    for (const { sentence, remedy, why } of allRules) {
      expect(sentence).toMatch(/^[\p{Lu}"{<].*[^.]$/su);
      expect(remedy).toMatch(/[.}]$/);
      expect(why.length).toBeGreaterThan(30);
    }
  });
});
