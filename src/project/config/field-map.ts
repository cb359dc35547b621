import { stringify } from 'yaml';
import type { Finding } from '../../core/findings/finding.js';
import { declaredItemShape, fieldKinds, type DeclaredItems } from '../../core/dialects/field-shape.js';
import { anyGroup, either, group, named, needed, oneOf, text, type Key } from '../../core/yaml/keys.js';
import type { FieldShape } from '../../core/dialects/model.js';
import { readTextFile } from '../files/text-file.js';
import { readYaml } from '../../core/yaml/read-yaml.js';

/** What a file of fields answers: how fields are called on the other platform, and what they hold. */
export interface FieldMap {
  /** The platform's names, by the neutral ones. */
  readonly names: Readonly<Record<string, string>>;
  readonly shapes: ReadonlyMap<string, FieldShape>;
}

export type FieldMapResult =
  | { readonly map: FieldMap; readonly findings: readonly [] }
  /** Null where the file is not there, or is wrong. */
  | { readonly map: null; readonly findings: readonly Finding[] };

const schema = needed(
  group({
    fields: needed(
      named(
        null,
        either(
          text(),
          group({
            name: text(),
            type: oneOf(...fieldKinds, 'list'),
            list: either(oneOf(...fieldKinds), anyGroup()) as Key<DeclaredItems | undefined>,
          }),
        ),
      ),
    ),
  }),
);

/** Reads a file that answers how fields are called. */
export async function readFieldMap(path: string, shown: string): Promise<FieldMapResult> {
  const unreadable: Finding[] = [];
  const file = await readTextFile(path, shown, (item) => unreadable.push(item));
  if (file === null) return { map: null, findings: unreadable };
  const { value, findings } = readYaml(file.source, schema);
  if (value === null) return { map: null, findings };
  const answers = Object.entries(value.fields).map(
    ([name, answer]) =>
      [name, typeof answer === 'string' ? { name: answer, type: undefined, list: undefined } : answer] as const,
  );
  return {
    map: {
      names: Object.fromEntries(answers.flatMap(([field, { name }]) => (name === undefined ? [] : [[field, name]]))),
      shapes: new Map(
        answers.flatMap(([field, { type, list }]): [string, FieldShape][] => {
          if (list !== undefined) return [[field, { type: 'list', item: declaredItemShape(list) }]];
          return type === undefined ? [] : [[field, { type }]];
        }),
      ),
    },
    findings: [],
  };
}

/** The text of a file that asks how fields are called, with the names by rule as answers. */
export function fieldQuestions(names: Readonly<Record<string, string>>, dialect: string): string {
  return `# How these fields are called on ${dialect}. Each has its name by rule: correct it where the platform has another.
# What a field holds may be said too:  loans: { name: LOANS, list: { tool: text } }
${stringify({ fields: names })}`;
}
