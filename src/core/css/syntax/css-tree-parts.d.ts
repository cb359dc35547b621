/** The parts of the CSS library that its type definitions leave out: each by itself, without its large dictionary. */
declare module 'css-tree/parser' {
  import { parse } from 'css-tree';
  export default parse;
}
declare module 'css-tree/tokenizer' {
  export { tokenize, tokenTypes } from 'css-tree';
}
declare module 'css-tree/convertor' {
  import type { toPlainObject } from 'css-tree';
  const convertor: { readonly toPlainObject: typeof toPlainObject };
  export default convertor;
}
declare module 'css-tree/utils' {
  export { string, url } from 'css-tree';
}
