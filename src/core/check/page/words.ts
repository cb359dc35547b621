/** The words of a text, with single spaces, and without characters that take no room: those that fill a preheader up. */
export function shownWords(text: string): string {
  return text
    .replace(/[\u00ad\u034f\u200b-\u200f\u2060\u2800\ufeff\u00a0]+/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
}
