import type { Rule } from '../facts/rule.js';

export const pictureInsecure: Rule = {
  code: 'picture-insecure',
  group: 'pictures',
  severity: 'warning',
  sentence: 'This picture comes over an unencrypted connection',
  remedy: 'Write https:// in its address.',
  why: 'Web mail is encrypted, and leaves out or marks what is not.',
  bad: '<p><img src="http://alderlane.example/saw.png" width="300" height="200" alt="A saw on the bench"></p>',
  good: '<p><img src="https://alderlane.example/saw.png" width="300" height="200" alt="A saw on the bench"></p>',
  needs: [],
  *find(page) {
    for (const { element, src } of page.pictures)
      if (/^http:\/\//i.test(src) && !/^http:\/\/(?:localhost|127\.|10\.|192\.168\.)/i.test(src))
        yield { place: page.placeOf(element) };
  },
};
