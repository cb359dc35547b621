/** Addresses on the web, data URLs, parts of a mail, and paths that a merge tag fills in name no file here. */
export function isElsewhere(path: string): boolean {
  return /^(?:[a-z][a-z\d+.-]+:|\/\/)/i.test(path) || path.includes('\uFDD0');
}

/** The path of a file that an address names: without query and fragment, its percent signs resolved (RFC 3986, 2.1). */
export function plainPath(address: string): string {
  const bare = address.replace(/[?#].*$/, '');
  try {
    return decodeURIComponent(bare);
  } catch {
    return bare;
  }
}
