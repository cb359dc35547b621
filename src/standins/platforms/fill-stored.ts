import { fillSample, sampleRecipient, type SampleRecipient } from '../../core/dialects/sample/fill-sample.js';
import { readDialectTags } from '../../core/dialects/read/read-tags.js';
import type { Dialect } from '../../core/dialects/dialect.js';
import type { MergeField, MergeFields } from '../../core/dialects/model.js';
import { sampledShape } from '../../core/dialects/field-shape.js';
import { escapeHtml } from '../../core/html/escape.js';
import { sentinel } from '../../core/html/tags.js';
import { SourceText } from '../../core/text/source-text.js';

/** The recipients of a simulated platform: one who has told everything, and one of whom nothing is known. */
export const recipients = ['ines', 'nobody'] as const;

export type RecipientName = (typeof recipients)[number];

const ines: Readonly<Record<string, unknown>> = {
  first_name: 'Ines',
  last_name: 'Okafor',
  branch: 'Mill Yard',
  member_number: 'A-2207',
  points: 120,
  vip: true,
  loans: [
    { tool: 'Cordless drill', due: '14 May', late: false, fee: '' },
    { tool: 'Extension ladder', due: '2 May', late: true, fee: '1.50' },
  ],
};

const fields: MergeFields = new Map(
  Object.entries(ines).map(([name, sample]): [string, MergeField] => [
    name,
    { ...sampledShape(sample), sample, fallback: null },
  ]),
);

/** A stored template as one of the platform's recipients reads it. Tags that are none of its dialect stay. */
export function filledTemplate(html: string, dialect: Dialect, name: RecipientName): string {
  const source = new SourceText('template', html);
  const read = readDialectTags(source, dialect, fields, () => undefined).filter(({ tag }) => tag.kind !== 'broken');
  let at = 0;
  let text = '';
  for (const [index, { tag }] of read.entries()) {
    const { start, end } = tag.place.span;
    text += html.slice(at, start) + sentinel(index);
    at = end;
  }
  text += html.slice(at);
  return fillSample(
    text,
    read.map(({ tag }) => tag),
    recipientNamed(name),
    escapeHtml,
  );
}

function recipientNamed(name: RecipientName): SampleRecipient {
  const system = {
    company: 'Alder Lane Tool Library CIC',
    postalAddress: '14 Alder Lane, Harrowby HX0 0ZZ',
    year: 2026,
    unsubscribe: null,
  };
  const nothing = new Map<string, unknown>(Object.keys(ines).map((field) => [field, field === 'loans' ? [] : null]));
  return sampleRecipient(fields, system, 'en', name === 'nobody' ? nothing : new Map());
}
