import type { Span } from '../text/span.js';

/** Where in YAML somebody types: the keys around, and what is written so far of a key, or of the value of the last of them. */
export interface YamlPlace {
  readonly path: readonly string[];
  readonly kind: 'key' | 'value';
  readonly written: string;
  readonly span: Span;
  /** Whether it stands in a group in braces. */
  readonly inBraces: boolean;
}

const keyLine =
  /^(\s*(?:-\s+)*)(?:"([^"]*)"|'([^']*)'|([^\s"'#{}[\],&*!|>%@-][^#{}[\],]*?|-[^\s#{}[\],:]+))\s*:(?=\s|$)/;

/** Where an offset stands, by the indentation of the lines before it: what is being written need be no YAML yet. */
export function yamlPlace(text: string, offset: number): YamlPlace {
  const lineStart = text.lastIndexOf('\n', offset - 1) + 1;
  const open: { indent: number; key: string }[] = [];
  const below = (indent: number): void => {
    while ((open[open.length - 1]?.indent ?? -1) >= indent) open.pop();
  };
  for (const line of text.slice(0, lineStart).split('\n')) {
    const match = keyLine.exec(line);
    if (match === null) continue;
    const indent = (match[1] ?? '').length;
    below(indent);
    open.push({ indent, key: keyOf(match) });
  }
  const before = text.slice(lineStart, offset);
  const indent = /^\s*(?:-\s+)*/.exec(before)?.[0].length ?? 0;
  below(indent);
  const path = open.map(({ key }) => key);
  const match = keyLine.exec(before);
  if (match === null) return { ...begun(path, before.slice(indent), offset), inBraces: false };
  return inValue([...path, keyOf(match)], before.slice(match[0].length), offset);
}

function keyOf([, , double, single, bare]: RegExpExecArray): string {
  return double ?? single ?? bare?.trim() ?? '';
}

/** A key is begun; or an item of a list, whose value that is. */
function begun(path: readonly string[], written: string, offset: number): Omit<YamlPlace, 'inBraces'> {
  const name = written.trimStart().replace(/^["']/, '');
  return { path, kind: 'key', written: name, span: { start: offset - name.length, end: offset } };
}

/** Behind a key: a value, or a group in braces with keys of its own. */
function inValue(path: readonly string[], written: string, offset: number, inBraces = false): YamlPlace {
  const group = openGroup(written);
  if (group === null) {
    const value = /[^\s,[]*$/.exec(written.replace(/^\s*(["'])/, (quote) => ' '.repeat(quote.length)))?.[0] ?? '';
    return { path, kind: 'value', written: value, span: { start: offset - value.length, end: offset }, inBraces };
  }
  const match = /^\s*(?:"([^"]*)"|'([^']*)'|([^\s"':,{}[\]]+))\s*:(?=\s)/.exec(group);
  if (match === null) return { ...begun(path, group, offset), inBraces: true };
  return inValue([...path, match[1] ?? match[2] ?? match[3] ?? ''], group.slice(match[0].length), offset, true);
}

/** What is written of the last entry of the outermost group in braces that is open; null where none is. */
function openGroup(written: string): string | null {
  const starts: number[] = [];
  let quote = '';
  for (let index = 0; index < written.length; index += 1) {
    const character = written.charAt(index);
    if (quote !== '') quote = character === quote ? '' : quote;
    else if (character === '"' || character === "'") quote = character;
    else if (character === '{') starts.push(index + 1);
    else if (character === '}') starts.pop();
    else if (character === ',' && starts.length > 0) starts[starts.length - 1] = index + 1;
  }
  const [outer] = starts;
  return outer === undefined ? null : written.slice(outer);
}
