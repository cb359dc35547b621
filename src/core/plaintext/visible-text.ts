import { sentinel, splitAtSentinels } from '../html/tags.js';
import { UNBREAKABLE_SPACE } from './wrap.js';

/** Text in the case that `text-transform` asks for (CSS Text Level 3, 2.1); template tags stay as they are. */
export function cased(value: string, transform: string): string {
  const change = changes.get(transform);
  if (change === undefined) return value;
  return splitAtSentinels(value)
    .map((piece) => (typeof piece === 'number' ? sentinel(piece) : change(piece)))
    .join('');
}

const changes: ReadonlyMap<string, (text: string) => string> = new Map([
  ['uppercase', (text: string) => text.toUpperCase()],
  ['lowercase', (text: string) => text.toLowerCase()],
  [
    'capitalize',
    (text: string) =>
      text.replace(
        /(^|[\s\p{Ps}\p{Pi}"'-])(\p{Ll})/gu,
        (_, before: string, letter: string) => before + letter.toUpperCase(),
      ),
  ],
]);

/**
 * Text without characters that take no room: they fill the preview lines of inboxes, and say where words may break. Those
 * that join letters stay between letters, where scripts and emoji need them.
 */
export function withoutFiller(text: string): string {
  return text
    .replace(/[\u00ad\u200b\u2060\ufeff\u034f]/g, '')
    .replace(/(?<![\p{L}\p{M}\p{N}\p{S}\ufe0f])[\u200c\u200d]+|[\u200c\u200d]+(?![\p{L}\p{M}\p{N}\p{S}])/gu, '');
}

/** No-break spaces keep words together, but where other white space stands beside them. */
export function withPlainSpaces(text: string): string {
  if (!text.includes('\u00a0')) return text;
  return text.replace(/[ \t\n\f\r\u00a0]+/g, (run) => (/[ \t\n\f\r]/.test(run) ? ' ' : UNBREAKABLE_SPACE));
}
