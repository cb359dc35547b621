/** A text without its percent-encoding (RFC 3986, 2.1); as it stands where that is none. */
export function percentDecoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}
