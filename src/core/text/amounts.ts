/** A whole number with commas between its thousands. The engine's own writer of numbers first reads the tables of all languages. */
export const thousands = (count: number): string => String(count).replace(/\B(?=(?:\d{3})+$)/g, ',');

/** A number of bytes: "41.2 KB". */
export const kilobytes = (bytes: number): string => `${(bytes / 1024).toFixed(1)} KB`;

/** A number of things: "1 link", "2 links". */
export const counted = (count: number, one: string): string => `${count} ${one}${count === 1 ? '' : 's'}`;

/** Names in a sentence: "one", "one and two", "one, two and three". */
export const listed = (names: readonly string[]): string =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names[names.length - 1] ?? ''}`;
