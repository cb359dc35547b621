import { describe, expect, test } from '@jest/globals';
import type { Writer } from '../../../src/core/layout/print/print.js';
import { keptPrint } from '../../../src/core/message/editions/kept-print.js';

const here = { webFonts: true };
const elsewhere = { webFonts: false };

function writer(own: Partial<Writer> = {}): Writer {
  return {
    tag: (index) => `{${index}}`,
    picture: (path) => path,
    link: (address) => address,
    region: () => null,
    ...own,
  };
}

/** A page of a tag, a link, a picture and a region, and how often it was printed. */
function counted(): { print: ReturnType<typeof keptPrint>; times: () => number } {
  let times = 0;
  const print = keptPrint((by, { webFonts }) => {
    times += 1;
    const region = JSON.stringify(by.region('offer'));
    return [by.tag(3, 'text'), by.link('/tools'), by.picture('saw.png'), region, String(webFonts)].join(' ');
  });
  return { print, times: () => times };
}

describe('a page that editions share', () => {
  test('is printed once for writers that say the same', () => {
    const { print, times } = counted();
    const marked = { region: (): { open: string; close: string } => ({ open: '[', close: ']' }) };
    expect(print(writer(marked), here)).toBe('{3} /tools saw.png {"open":"[","close":"]"} true');
    expect(print(writer(marked), here)).toBe('{3} /tools saw.png {"open":"[","close":"]"} true');
    expect(times()).toBe(1);
  });

  test.each<[string, Partial<Writer>, string]>([
    ['a tag', { tag: () => '%name%' }, '%name% /tools saw.png null true'],
    ['a link', { link: () => '/tools?from=mail' }, '{3} /tools?from=mail saw.png null true'],
    ['a picture', { picture: () => 'cid:1' }, '{3} /tools cid:1 null true'],
    ['a region', { region: () => 'as-written' }, '{3} /tools saw.png "as-written" true'],
  ])('is printed anew where a writer says another of %s', (_, own, page) => {
    const { print, times } = counted();
    print(writer(), here);
    expect(print(writer(own), here)).toBe(page);
    expect(print(writer(), here)).toBe('{3} /tools saw.png null true');
    expect(times()).toBe(2);
  });

  test('is printed anew where places are asked for, and for another destination', () => {
    const { print, times } = counted();
    print(writer(), here);
    print(writer({ places: true }), here);
    expect(print(writer(), elsewhere)).toBe('{3} /tools saw.png null false');
    expect(times()).toBe(3);
  });

  test('asks each writer all the same: it may take note of what it is asked', () => {
    const { print } = counted();
    const asked: number[] = [];
    const noting = writer({ tag: (index) => (asked.push(index), `{${index}}`) });
    print(noting, here);
    print(noting, here);
    expect(asked).toEqual([3, 3]);
  });
});
