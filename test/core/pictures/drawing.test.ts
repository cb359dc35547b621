import { describe, expect, test } from '@jest/globals';
import { readGradient } from '../../../src/core/css/values/gradient.js';
import { drawnPath, planDrawing, veilDrawing } from '../../../src/core/pictures/drawing.js';

const photo = { width: 1200, height: 600 };
const of = (fit: 'cover' | 'contain' | 'fill', ratio: number, across: number, down: number) =>
  ({ path: 'shed.jpg', fit, ratio, position: [across, down] }) as const;

describe('pictures in boxes of another shape', () => {
  test('what runs over is cut off where the position says', () => {
    expect(planDrawing(photo, of('cover', 1, 0.5, 0.5)).cut).toEqual({ left: 300, top: 0, width: 600, height: 600 });
    expect(planDrawing(photo, of('cover', 1, 0, 0)).cut).toEqual({ left: 0, top: 0, width: 600, height: 600 });
    expect(planDrawing(photo, of('cover', 4, 0.5, 1)).cut).toEqual({ left: 0, top: 300, width: 1200, height: 300 });
  });

  test('what is left stays transparent around the whole', () => {
    const { canvas, left, top } = planDrawing(photo, of('contain', 1, 0.5, 0.5));
    expect({ canvas, left, top }).toEqual({ canvas: { width: 1200, height: 1200 }, left: 0, top: 300 });
  });

  test('or it is stretched', () => {
    const { canvas, stretches } = planDrawing(photo, of('fill', 4, 0, 0));
    expect({ canvas, stretches }).toEqual({ canvas: { width: 1200, height: 300 }, stretches: true });
  });

  test('each has a path of its own', () => {
    expect(drawnPath(of('cover', 16 / 9, 0.5, 0.5))).toBe('shed.jpg#cover-1.7778-50-50');
    expect(drawnPath(of('contain', 1, 0, 1))).toBe('shed.jpg#contain-1.0000-0-100');
  });
});

test('a gradient over a picture is a drawing of its size', () => {
  const veil = readGradient('linear-gradient(rgba(0,0,0,.2), #028)');
  expect(veil === null ? '' : veilDrawing(veil, 200, 100)).toBe(
    '<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100"><linearGradient id="g" ' +
      'gradientUnits="userSpaceOnUse" x1="100" y1="0" x2="100" y2="100"><stop offset="0" stop-color="#000000" ' +
      'stop-opacity="0.2"/><stop offset="1" stop-color="#002288" stop-opacity="1"/></linearGradient>' +
      '<rect width="200" height="100" fill="url(#g)"/></svg>',
  );
});
