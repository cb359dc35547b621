import type { Rule } from '../facts/rule.js';

export const pictureKind: Rule = {
  code: 'picture-kind',
  group: 'pictures',
  severity: 'error',
  sentence: 'Some mail programs show no {kind}',
  remedy: 'Use a PNG, JPEG or GIF.',
  why: 'The word engine and several web mails show an empty box in its place.',
  bad: '<p><img src="saw.webp" width="300" height="200" alt="A saw on the bench"></p>',
  good: '<p><img src="saw.png" width="300" height="200" alt="A saw on the bench"></p>',
  needs: ['finished'],
  *find(page) {
    for (const { element, src, file } of page.pictures) {
      const ending =
        /\.(webp|avif|svg|tiff?|bmp|heic)(?:[?#]|$)/i.exec(src)?.[1]?.toLowerCase() ??
        /^data:image\/(webp|avif|svg|tiff|bmp)/i.exec(src)?.[1];
      const kind = file === null ? ending : kinds.has(file.format) ? file.format : undefined;
      if (kind !== undefined) yield { place: page.placeOf(element), data: { kind: kind.toUpperCase() } };
    }
  },
};

const kinds: ReadonlySet<string> = new Set(['webp', 'avif', 'svg', 'tiff', 'bmp', 'heic']);
