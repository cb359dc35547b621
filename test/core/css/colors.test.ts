import { describe, expect, test } from '@jest/globals';
import { readGradient, middleColor } from '../../../src/core/css/values/gradient.js';
import { misspeltProperty, nearestValue } from '../../../src/core/css/values/misspelt.js';
import { over, printColor, readColor } from '../../../src/core/css/values/mixed-color.js';

const white = { red: 255, green: 255, blue: 255, alpha: 1 };

describe('colours of every notation', () => {
  test.each([
    ['#36c', '#3366cc'],
    ['#0A1B2c', '#0a1b2c'],
    ['#36c8', 'rgba(51,102,204,0.533)'],
    ['RebeccaPurple', '#663399'],
    ['hwb(194 0% 0%)', '#00c3ff'],
    ['rgb(0 0 0 / 20%)', 'rgba(0,0,0,0.2)'],
    ['hsla(120,50%,50%,.5)', 'rgba(64,191,64,0.5)'],
    ['oklch(60% .15 30)', '#ca5747'],
    ['lab(50% 40 59.5)', '#bf5700'],
    ['color(display-p3 1 0 0)', '#ff0000'],
    ['color-mix(in srgb, red 30%, white)', '#ffb3b3'],
    ['color-mix(in oklab, red, blue)', '#8c53a2'],
    ['color-mix(in srgb, 20% red, transparent)', 'rgba(255,0,0,0.2)'],
    ['color-mix(in srgb, red 10%, blue 20%)', 'rgba(85,0,170,0.3)'],
    ['light-dark(#333, #eee)', '#333333'],
  ])('%s is %s', (written, printed) => {
    const color = readColor(written);
    expect(color === null ? null : printColor(color)).toBe(printed);
  });

  test.each(['currentcolor', 'rgb(from red r g b)', 'rgb(calc(1 + 2) 0 0)', 'color-mix(red, blue)', 'sharp'])(
    '%s is none that is known by itself',
    (written) => expect(readColor(written)).toBeNull(),
  );

  test('what they refer to is told', () => {
    const context = { current: { red: 0, green: 0, blue: 255, alpha: 1 }, scheme: 'dark' } as const;
    expect(readColor('light-dark(#333, #eee)', context)).toMatchObject({ red: 238 });
    expect(printColor(readColor('color-mix(in srgb, currentcolor, white)', context) ?? white)).toBe('#8080ff');
  });

  test('what is sheer is laid over what lies beneath', () => {
    expect(printColor(over({ red: 0, green: 0, blue: 0, alpha: 0.1 }, white))).toBe('#e6e6e6');
  });
});

describe('gradients', () => {
  test('sides, angles and places of stops', () => {
    const gradient = readGradient('linear-gradient(to right, #036 10%, red, #6af)');
    expect(gradient?.angle).toBe(90);
    expect(gradient?.stops.map(({ at }) => at)).toEqual([0.1, 0.55, 1]);
    expect(readGradient('linear-gradient(.25turn, #fff, #000)')?.angle).toBe(90);
    expect(readGradient('linear-gradient(to top left, #fff, #000)')?.angle).toBe(315);
  });

  test('the middle stands for one', () => {
    const gradient = readGradient('linear-gradient(#000, #fff)');
    expect(printColor((gradient && middleColor(gradient)) ?? white)).toBe('#808080');
  });

  test.each(['radial-gradient(#000, #fff)', 'linear-gradient(#000)', 'linear-gradient(#000 10px, #fff)', 'none'])(
    '%s is none that is read',
    (written) => expect(readGradient(written)).toBeNull(),
  );
});

describe('what was misspelt', () => {
  test.each([
    ['widht', 'width'],
    ['dislpay', 'display'],
    ['colr', 'color'],
    ['width', null],
    ['mso-line-height-rule', null],
    ['-webkit-box-orient', null],
    ['entirely-unlike', null],
  ])('property %s: %s', (written, nearest) => expect(misspeltProperty(written)).toBe(nearest));

  test.each([
    ['display', 'blok', 'block'],
    ['text-align', 'centre', 'center'],
    ['background', 'no-repaet #fff', 'no-repeat #fff'],
    ['width', '12', null],
  ])('%s: %s may be %s', (property, written, nearest) => expect(nearestValue(property, written)).toBe(nearest));
});
