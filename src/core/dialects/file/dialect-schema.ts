import { regionKinds } from '../../html/regions.js';
import {
  about,
  characters,
  each,
  either,
  flag,
  group,
  list,
  named,
  needed,
  oneKeyOf,
  oneOf,
  onlyWhere,
  orNothing,
  text,
  textLike,
  together,
  usually,
  usuallyThere,
  type Held,
  type Key,
} from '../../yaml/keys.js';
import { counters, tagConstructs, type FieldCase } from '../dialect.js';
import { packageShapes } from '../package-shapes.js';
import { exchangesSchema, pushSchema } from './push-schema.js';

const pattern = text();
const patterns = (...names: string[]): Key<Readonly<Record<string, string>>> => each(names, pattern);

const spelling = either(
  pattern,
  group({ pattern: needed(pattern), verdict: usually(oneOf('exact', 'rewritten'), 'exact') }),
);
const spellings = either(spelling, list(spelling, 1));

export type RawSpellings = Exclude<Held<typeof spellings>, undefined>;

const spelled = (names: readonly string[]): Key<Readonly<Record<string, RawSpellings>>> => each(names, spellings);

const filter = either(
  spellings,
  group({ pattern: needed(spellings), formats: usually(oneOf('ldml', 'strftime'), 'ldml') }),
);

export type RawFilter = Exclude<Held<typeof filter>, undefined>;

/** A name of a file in a package, which may hold `{message}`. */
const fileName = textLike(/^[\p{L}\d{}][\p{L}\d{}. _-]*$/u, 'the name of a file');

const conditionNames = [
  'present',
  'present_number',
  'present_list',
  'absent',
  'absent_number',
  'absent_list',
  'given',
  'not_given',
  'equal',
  'unequal',
  'less',
  'at_most',
  'more',
  'at_least',
  'not',
  'and',
  'or',
  'group',
  'text',
  'yes',
  'no',
  'path',
];

/** The filters that a dialect may have, by their neutral names. */
const filterNames = [
  'upper',
  'lower',
  'capital',
  'date',
  'number',
  'size',
  'join',
  'truncate',
  'shorten',
  'replace',
  'plus',
  'minus',
  'times',
  'round',
];

const regionPattern = orNothing(
  either(group({ open: needed(pattern), close: needed(pattern) }), group({ attribute: needed(pattern) })),
);

const constructNames = list(text());
const paths = either(pattern, list(pattern));

/** What a dialect file may hold. */
export const dialectSchema = needed(
  group({
    dialect: about('Its name, which is that of its file', needed(text())),
    title: about('What people call the platform', needed(text())),
    verbatim: usually(flag(), false),
    delimiters: about(
      'What its tags stand between, so that they are found in finished HTML',
      needed(
        list(
          together(
            group({
              open: needed(text()),
              close: needed(text()),
              quotes: usually(flag(), false),
              content: usually(oneOf('any', 'name', 'none'), 'any'),
              trim_open: text(),
              trim_close: text(),
            }),
            'trim_open',
            'trim_close',
          ),
        ),
      ),
    ),
    tags: about('How each construct is written', spelled(tagConstructs)),
    filters: about('How filters are written, by their neutral names', each(filterNames, filter)),
    conditions: about('How conditions are written', spelled(conditionNames)),
    values: about('How a fallback and a choice are written within a tag', spelled(['fallback', 'choice'])),
    binding: about(
      'Which expressions bind loosest, one list for each level',
      list(either(constructNames, group({ right: needed(constructNames) }))),
    ),
    filters_in_conditions: about('Whether filters and fallbacks may stand in conditions', usually(flag(), false)),
    strings: about(
      'The character that takes the meaning from the next one within quotes',
      usuallyThere(group({ escape: usually(orNothing(characters(1)), null) })),
    ),
    escape: about('The character before a delimiter that makes it text', usually(characters(1), null)),
    also_literal: about('Texts besides the delimiters that must be marked as text', usually(list(text()), [])),
    fields: about(
      'The platform’s names of fields, by the neutral ones; under * the rule for all others',
      usually(
        named(null, pattern, {
          '*': group({ case: needed(oneOf('as-is', 'upper-snake', 'snake', 'kebab', 'camel', 'pascal')) }),
        }) as Key<Readonly<Record<string, string | { readonly case: FieldCase }>> | undefined>,
        {},
      ),
    ),
    names: about(
      'What names the language takes for fields',
      usuallyThere(
        group({
          hyphens: usually(flag(), true),
          reserved: usually(list(text()), []),
          quoted: usually(pattern, null),
          properties: usually(list(text()), []),
        }),
      ),
    ),
    links: about('The platform’s own links', patterns('unsubscribe', 'preferences', 'browser', 'forward')),
    sender: about('What it fills in of the sender', patterns('company', 'postal_address')),
    date: about('What it fills in of the date', patterns('year')),
    system_fields: about('Whether these values are fields like others', usually(flag(), false)),
    footer: about(
      'What a footer needs, the platform’s own one, and by what its badge is known',
      usuallyThere(
        together(
          group({
            required: usually(list(oneOf('unsubscribe', 'preferences', 'browser', 'postal_address', 'company')), []),
            html: text(),
            text: text(),
            own_marks: usually(list(oneKeyOf({ class: text(), link_host: text() })), []),
          }),
          'html',
          'text',
        ),
      ),
    ),
    regions: about(
      'How a piece that users may edit is marked, by its kind',
      each([...regionKinds, 'repeat', 'choice'], regionPattern),
    ),
    plain_text: about('Whether text versions must print values raw', usually(oneOf('same', 'raw'), 'same')),
    limits: about('What the platform refuses', usuallyThere(group({ web_fonts: usually(flag(), true) }))),
    package: about(
      'What it imports',
      group({
        shape: needed(oneOf(...packageShapes)),
        html: fileName,
        text: fileName,
        css: onlyWhere('shape', 'split', fileName),
      }),
    ),
    paths: about(
      'How the path of a field is written, of an item of a loop, and of a field of one',
      usuallyThere(
        group({
          lookup: usually(oneOf('named', 'item', 'outward'), 'named'),
          field: usually(paths, '{name}'),
          field_in_loop: usually(paths, []),
          item: usually(paths, '{item}.{name}'),
          plain_item: usually(paths, '{item}'),
          outer: usually(paths, []),
          counters: each(counters, paths),
        }),
      ),
    ),
    push: about('How its programming interface takes templates', pushSchema),
    exchanges: about('Requests and answers, recorded, by which push is proved', usually(exchangesSchema, [])),
    samples: about(
      'Pairs of texts that mean the same, by which the file is proved',
      usually(list(group({ neutral: needed(text()), written: needed(text()) })), []),
    ),
  }),
);

export type RawDialect = Held<typeof dialectSchema>;
