import type { Rule } from '../facts/rule.js';

export const pictureAddress: Rule = {
  code: 'picture-address',
  group: 'pictures',
  severity: 'error',
  sentence: 'This picture lies {where}',
  remedy: 'Put it on the web or into the package.',
  why: 'Nobody but whoever made the mail sees it.',
  bad: '<p><img src="file:///home/ines/saw.png" width="300" height="200" alt="A saw on the bench"></p>',
  good: '<p><img src="saw.png" width="300" height="200" alt="A saw on the bench"></p>',
  needs: ['finished'],
  *find(page) {
    for (const { element, src } of page.pictures) {
      const where = /^file:|^[a-z]:[\\/]|^\\\\/i.test(src)
        ? 'on the machine of whoever made the page'
        : /^https?:\/\/(?:localhost|127\.|10\.|192\.168\.)/i.test(src)
          ? 'in a network that readers do not reach'
          : src === ''
            ? 'nowhere: its address is empty'
            : null;
      if (where !== null) yield { place: page.placeOf(element), data: { where } };
    }
  },
};
