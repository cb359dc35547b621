import stringWidth from 'string-width';

/** The borrowed measure takes a time that grows with the square of what it is given: it is given so much at once. */
const CHUNK = 400;

/** How many cells of a terminal a text takes: wide characters two, those that join others none. */
export function textWidth(text: string): number {
  if (/^[\x20-\x7e]*$/.test(text)) return text.length;
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
