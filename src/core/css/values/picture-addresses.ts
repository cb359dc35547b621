import { decodeString, decodeUrl, tokenizeCss, tokenType, type CssToken } from '../syntax/css-tree.js';
import type { Span } from '../../text/span.js';

/** At-rules whose addresses are those of other things than pictures. */
const otherStatements: ReadonlySet<string> = new Set(['import', 'namespace', 'charset']);
const otherBlocks: ReadonlySet<string> = new Set(['font-face']);

/**
 * The addresses of pictures in a style sheet or a list of declarations, and where they stand in it: `url(…)`, quoted or not,
 * and the strings of `image-set(…)`. Fonts and imported sheets are no pictures.
 */
export function addressesInCss(text: string): { path: string; span: Span }[] {
  const found: { path: string; span: Span }[] = [];
  const functions: string[] = [];
  const tokens = tokenizeCss(text, 0);
  for (let index = 0; index < tokens.length; index += 1) {
    const token = tokens[index];
    if (token === undefined) break;
    const written = text.slice(token.start, token.end);
    switch (token.type) {
      case tokenType.atKeyword: {
        const name = written.slice(1).toLowerCase();
        if (otherStatements.has(name)) index = endOf(tokens, index, tokenType.semicolon);
        else if (otherBlocks.has(name)) index = endOf(tokens, index, tokenType.closeCurly);
        break;
      }
      case tokenType.function:
        functions.push(written.slice(0, -1).toLowerCase());
        break;
      case tokenType.openRound:
        functions.push('');
        break;
      case tokenType.closeRound:
        functions.pop();
        break;
      case tokenType.semicolon:
      case tokenType.closeCurly:
        // A parenthesis that is left open ends with its declaration.
        functions.length = 0;
        break;
      case tokenType.string: {
        const within = functions.at(-1) ?? '';
        const isAddress = within === 'url' || /^(?:-\w+-)?image-set$/.test(within);
        if (isAddress) found.push({ path: decodeString(written), span: innerOf(token, written) });
        break;
      }
      case tokenType.url:
        found.push({ path: decodeUrl(written), span: urlSpan(token, written) });
        break;
      default:
    }
  }
  return found.filter(({ path }) => path !== '' && !path.startsWith('#'));
}

function endOf(tokens: readonly CssToken[], from: number, type: number): number {
  let end = from + 1;
  while (end < tokens.length && tokens[end]?.type !== type) end += 1;
  return end;
}

function innerOf({ start, end }: CssToken, written: string): Span {
  const isClosed = written.length > 1 && written.endsWith(written[0] ?? '');
  return { start: start + 1, end: isClosed ? end - 1 : end };
}

function urlSpan({ start }: CssToken, written: string): Span {
  const before = /^url\(\s*/i.exec(written)?.[0].length ?? 0;
  const inner = written.slice(before).replace(/\s*\)?$/, '');
  return { start: start + before, end: start + before + inner.length };
}
