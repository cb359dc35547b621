/** The milliseconds that `Retry-After` asks for: seconds, or a date (RFC 9110, 10.2.3). Null where it asks for none. */
export function retryAfter(value: string | undefined): number | null {
  if (value === undefined) return null;
  if (/^\s*\d+(?:\.\d+)?\s*$/.test(value)) return Number(value) * 1000;
  const at = Date.parse(value);
  return Number.isNaN(at) ? null : Math.max(0, at - Date.now());
}
