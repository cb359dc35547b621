import { describe, expect, test } from '@jest/globals';
import { fileNameOf, labelOf, readView, usualViews, writeView } from '../../../src/core/views/view.js';

const samples = ['ines', 'nobody', 'dark'];

describe('a view in words', () => {
  test.each<[string, string, string]>([
    ['375 strict-webmail dark', '375 strict-webmail dark', '375 px · strict-webmail · dark'],
    ['dark 375px word', '375 word dark', '375 px · word · dark'],
    ['', '700 webkit light', '700 px · webkit · light'],
    ['source ines', '700 source light ines', '700 px · source · light · ines'],
    ['sample:dark dark', '700 webkit dark sample:dark', '700 px · webkit · dark · dark'],
    ['no-pictures raw fit', '700 webkit light no-pictures raw fit', '700 px · webkit · light · no pictures · raw tags'],
    ['chips slices regions slices', '700 webkit light chips slices regions', '700 px · webkit · light · tag names'],
  ])('%j is %j', (text, written, label) => {
    const { view } = readView(text, samples);
    expect(view === null ? null : [writeView(view), labelOf(view)]).toEqual([written, label]);
    expect(readView(written, samples).view).toEqual(view);
  });

  test.each(['375 wbkit', '100', '99999', 'somebody', '375 dark blue'])('%j says something that is nothing', (text) => {
    const { view, unknown } = readView(text, samples);
    expect(view).toBeNull();
    expect(text).toContain(unknown);
  });

  test('has a name for files, each its own', () => {
    expect(usualViews.map(fileNameOf)).toEqual(['700-webkit-light', '375-webkit-light', '375-strict-webmail-light']);
  });
});
