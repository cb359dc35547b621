import type { Refuse } from '../core/findings/finding.js';

/** The address of a folder on the web, with a slash at its end: HTML is to hold it, so it may hold no password. Null for what is none. */
export function folderAddress(text: string, refuse: Refuse): string | null {
  if (!URL.canParse(text.trim())) return refuse('it is no address');
  const url = new URL(text.trim());
  if (url.protocol !== 'https:' && url.protocol !== 'http:') return refuse('it does not begin with https://');
  if (url.username !== '' || url.password !== '')
    return refuse('it holds a name or a password; these have keys of their own');
  if (url.search !== '' || url.hash !== '') return refuse('it has a query or a fragment');
  return url.href.endsWith('/') ? url.href : `${url.href}/`;
}

/** An address as it may be shown and logged: a name and password in it are left out. */
export function shownAddress(address: string): string {
  return address.replace(/^(\s*[a-z][a-z\d+.-]*:)?\/\/[^/?#]*@/i, '$1//…@');
}
