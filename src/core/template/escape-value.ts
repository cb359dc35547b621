/**
 * Data are no notation: what looks like a merge tag in them, or would be one together with what stands around them, is
 * printed as it stands.
 */
export function withoutTags(text: string): string {
  return text.replace(/@\{/g, '@@{').replace(/^\{/, '&#123;').replace(/@$/, '&#64;');
}

/** Escapes a value for text and for attributes; in one without quotes white space, too, which would end it. */
export function escaper(unquoted: boolean): (text: string) => string {
  const special = unquoted ? /[&<>"'`=\s]/g : /[&<>"']/g;
  return (text) => text.replace(special, (character) => `&#${character.codePointAt(0)};`);
}
