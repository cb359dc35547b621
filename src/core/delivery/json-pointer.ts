import type { Pointer } from '../dialects/push-api.js';

/**
 * What a JSON Pointer (RFC 6901) points at; undefined where there is nothing.
 * @param value parsed JSON
 */
export function pointedAt(value: unknown, pointer: Pointer): unknown {
  if (pointer === '') return value;
  return pointer
    .slice(1)
    .split('/')
    .map((token) => token.replaceAll('~1', '/').replaceAll('~0', '~'))
    .reduce<unknown>((at, token) => {
      if (Array.isArray(at)) return /^(?:0|[1-9]\d*)$/.test(token) ? at[Number(token)] : undefined;
      return typeof at === 'object' && at !== null && Object.hasOwn(at, token)
        ? (at as Record<string, unknown>)[token]
        : undefined;
    }, value);
}
