import type { Rule } from '../facts/rule.js';
import { nameOf } from '../page/links.js';
import { attribute } from '../../html/tree.js';

export const linkSilent: Rule = {
  code: 'link-silent',
  group: 'links',
  severity: 'warning',
  sentence: 'This link has no words, and nothing stands for what it shows',
  remedy: 'Write words into it, or an alt for its picture that says where it leads.',
  why: 'Where pictures are blocked there is nothing to tap, and who hears the mail hears the address (WCAG 2.2, 2.4.4).',
  bad: '<p><a href="https://alderlane.example/"><img src="sign.png" width="120" height="40" alt=""></a></p>',
  good: '<p><a href="https://alderlane.example/"><img src="sign.png" width="120" height="40" alt="Alder Lane Tool Library"></a></p>',
  needs: [],
  *find(page) {
    for (const link of page.links) {
      const isSaid = nameOf(link) !== '' || (attribute(link.element, 'title') ?? '') !== '';
      const lacksAlt = link.pictures.some((picture) => attribute(picture, 'alt') === null);
      if (link.href !== null && link.href !== '' && link.element.tag === 'a' && !isSaid && !lacksAlt)
        yield { place: page.placeOf(link.element) };
    }
  },
};
