import { stringify } from 'yaml';

/** A field to declare, with what it holds as far as a message shows it. */
export interface UndeclaredField {
  readonly name: string;
  readonly isList: boolean;
}

/**
 * Adds fields to the text of `inscriba.yaml`; every other byte stays. Null where the file does not have its fields line by
 * line, so that a person has to do it.
 */
export function withFields(config: string, fields: readonly UndeclaredField[]): string | null {
  const lineEnd = config.includes('\r\n') ? '\r\n' : '\n';
  const lines = fields.map(({ name, isList }) => {
    const value = isList ? '{ list: text, sample: [] }' : `{ sample: ${stringify(name.replace(/_/g, ' ')).trim()} }`;
    return `  ${name}: ${value}${lineEnd}`;
  });
  const heading = /^fields:[ \t]*(?:#.*)?\r?\n/m.exec(config);
  if (heading !== null) {
    const at = heading.index + heading[0].length;
    const indent = /^[ \t]+/.exec(config.slice(at))?.[0] ?? '  ';
    return config.slice(0, at) + lines.map((line) => indent + line.trimStart()).join('') + config.slice(at);
  }
  if (/^fields:/m.test(config)) return null;
  const end = config === '' || config.endsWith('\n') ? '' : lineEnd;
  return `${config}${end}fields:${lineEnd}${lines.join('')}`;
}
