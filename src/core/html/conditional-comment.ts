/** `<!--[if …]>…<![endif]-->` and its variants, which the `word` engine reads; the text is what stands in the comment. */
export function isConditionalComment(value: string): boolean {
  return /^\[if\b[^\]]*\]>/.test(value) || /<!\[endif\]$/.test(value) || value === '<![endif]';
}
