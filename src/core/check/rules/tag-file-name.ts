import type { Rule } from '../facts/rule.js';
import { holdsTag, isTagAlone } from '../../html/tags.js';
import { attribute } from '../../html/tree.js';

export const tagFileName: Rule = {
  code: 'tag-file-name',
  group: 'merge tags',
  severity: 'note',
  sentence: 'A merge tag stands in the name of a picture',
  remedy: 'Let the platform choose between pictures by blocks, each with its own.',
  why: 'Nothing can look whether that file is there: a picture that is missing shows to the reader first.',
  bad: '<p><img src="branch-@{branch}.png" width="300" height="200" alt="The branch"></p>',
  good: '<p><img src="branch.png" width="300" height="200" alt="The branch"></p>',
  needs: [],
  *find(page) {
    for (const { element } of page.pictures) {
      const src = attribute(element, 'src') ?? '';
      if (holdsTag(src) && !isTagAlone(src.trim())) yield { place: page.placeOfAttribute(element, 'src') };
    }
  },
};
