import type { Rule } from '../facts/rule.js';

export const textGarbled: Rule = {
  code: 'text-garbled',
  group: 'structure',
  severity: 'warning',
  sentence: '"{found}" stands here: these letters were read in the wrong encoding once',
  remedy: 'Write what is meant, and save the file as UTF-8.',
  why: 'Two strange signs in the place of one letter are UTF-8 that a program took for Latin-1. Readers see them as they stand.',
  bad: '<p>CafÃ© and tools</p>',
  good: '<p>Café and tools</p>',
  needs: [],
  *find(page) {
    for (const { node, element, words } of page.texts('desk')) {
      const found = /Ã[\u0080-\u00bf©¨¤¶¼Ÿ]|â€[™œ\u009d“”˜¦]|Â[ \u00a0©®£§°·]|\ufffd/.exec(words);
      if (found !== null) yield { place: page.place(node.span ?? element.startTag), data: { found: found[0] } };
    }
  },
};
