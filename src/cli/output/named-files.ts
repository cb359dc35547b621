/** Messages are named by their names; what has the ending of a page, or stands for standard input, is a file. */
export function isFinishedFile(word: string): boolean {
  return word === '-' || (/\.html?$/i.test(word) && !/^(?:\.\/)?messages\//.test(word));
}
