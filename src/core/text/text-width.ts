import stringWidth from 'string-width';

/** The borrowed measure takes a time that grows with the square of what it is given: it is given so much at once. */
const CHUNK = 400;

/** Letters, digits and marks that all take a cell each: those of most languages of the West, without what joins others. */
const narrow = /^[\x20-\x7e\xa1-\xac\xae-\u02ff\u2010-\u2027\u2030-\u205e\u20ac]*$/;

/** How many cells of a terminal a text takes: wide characters two, those that join others none. */
export function textWidth(text: string): number {
  if (narrow.test(text)) return text.length;
  let width = 0;
  for (let start = 0; start < text.length;) {
    const end = endOfChunk(text, start);
    width += stringWidth(text.slice(start, end));
    start = end;
  }
  return width;
}

/** Where a chunk may end: behind a blank, or anywhere but within a pair of surrogates. */
function endOfChunk(text: string, start: number): number {
  const most = start + CHUNK;
  if (most >= text.length) return text.length;
  const blank = text.slice(start, most).lastIndexOf(' ');
  if (blank > 0) return start + blank + 1;
  return /[\udc00-\udfff]/.test(text.charAt(most)) ? most - 1 : most;
}
