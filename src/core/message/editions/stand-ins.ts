/**
 * A text in which editions differ is a stand-in while they are compiled: a character for private use, by its number. The long
 * form is followed by as many letters as such a text has at most, the widest ones, and by a last character of that kind.
 */
const FIRST = 0xe000;
const STAND_IN = /[\uE000-\uF8FE]/g;
const LONG_STAND_IN = /([\uE000-\uF8FE])[W ]*\uF8FF/g;
const END = '\uF8FF';
const PRIVATE = /[\uE000-\uF8FF]/;

/** So many stand-ins can be told apart. */
export const MOST_STAND_INS = 0xf8ff - FIRST;

/** How long a text is, and its longest word, in characters. */
export interface TextLength {
  readonly text: number;
  readonly word: number;
}

/** How long a text is. */
export function lengthOf(text: string): TextLength {
  return { text: text.length, word: Math.max(...text.split(' ').map((word) => word.length)) };
}

/** The longer of two lengths, in each respect. */
export function longer(one: TextLength, other: TextLength): TextLength {
  return { text: Math.max(one.text, other.text), word: Math.max(one.word, other.word) };
}

/**
 * How a stand-in is written: as a single letter; as one long word, which those before and behind it make longer; as a long
 * text. What is compiled of all of them alike does not depend on the length of what they stand for.
 */
export type StandInForm = 'letter' | 'word' | 'text';

/**
 * The stand-in with a number.
 * @param length how long the texts are at most that it stands for
 */
export function standIn(index: number, form: StandInForm, length: TextLength): string {
  const letter = String.fromCharCode(FIRST + index);
  if (form === 'letter') return letter;
  const count = form === 'word' ? 1 : Math.max(2, Math.ceil(length.text / length.word));
  return letter + new Array<string>(count).fill('W'.repeat(length.word)).join(' ') + END;
}

/** Whether a text holds a stand-in, or what could be taken for one. */
export function holdsStandIn(text: string): boolean {
  return PRIVATE.test(text);
}

/** Long stand-ins as short ones. */
export function shortened(text: string): string {
  return text.replace(LONG_STAND_IN, '$1');
}

/** Replaces each short stand-in by what `write` makes of its number. */
export function replaceStandIns(text: string, write: (index: number) => string): string {
  return text.replace(STAND_IN, (character) => write(character.charCodeAt(0) - FIRST));
}

/**
 * Words of scripts that are written from left to right and break at spaces, a single space between them: of such a text
 * nothing but its length can make a difference to what is compiled.
 */
const PLAIN =
  /^[\p{sc=Latin}\p{sc=Greek}\p{sc=Cyrillic}\p{N}\p{P}\p{S}]+(?: [\p{sc=Latin}\p{sc=Greek}\p{sc=Cyrillic}\p{N}\p{P}\p{S}]+)*$/u;

/** The longest text that a stand-in may take the place of, in characters. */
export const LONGEST_TEXT = 1000;

/** The text that a piece of a page shows, its character references resolved; null where no stand-in may take its place. */
export function plainText(written: string): string | null {
  // Markup, references by name, and what would be read as a merge tag.
  if (written.length > LONGEST_TEXT || /<|&(?!#\d+;)|@@?\{/.test(written)) return null;
  const text = written.replace(/&#(\d+);/g, (_, code: string) => String.fromCodePoint(Number(code)));
  // Letters that are two in capitals make a word longer than its letters are counted.
  return PLAIN.test(text) && text.toUpperCase().length === text.length ? text : null;
}
