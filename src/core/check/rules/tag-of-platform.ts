import { foreignTags } from '../../dialects/read/foreign-tags.js';
import type { Rule } from '../facts/rule.js';

export const tagOfPlatform: Rule = {
  code: 'tag-of-platform',
  group: 'merge tags',
  severity: 'warning',
  sentence: '{tag} is a tag of {dialect}, and stands in the message as text',
  remedy:
    'Write it as a merge tag of the project, @{…}, so that each destination gets its own; or accept it where it is meant.',
  why: 'What one platform fills in, the readers of every other one see as it is written.',
  bad: { html: '<p>Hello ~~FIRST_NAME~~, the lathe is back.</p>', sender: null },
  good: { html: '<p>Hello @{first_name ?? "neighbour"}, the lathe is back.</p>', sender: null },
  needs: ['project'],
  *find(page) {
    const { source, tags } = page.doc;
    for (const { span, dialect } of foreignTags(source, tags, page.input.dialects ?? []))
      yield { place: page.place(span), data: { tag: source.slice(span), dialect: dialect.title } };
  },
};
