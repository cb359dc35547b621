/** An address, or in words why it is none. */
export type AddressResult =
  { readonly url: string; readonly detail: null } | { readonly url: null; readonly detail: string };

/** The address of a folder on the web, with a slash at its end: HTML is to hold it, so it may hold no password. */
export function folderAddress(text: string): AddressResult {
  const refuse = (detail: string): AddressResult => ({ url: null, detail });
  if (!URL.canParse(text.trim())) return refuse('it is no address');
  const url = new URL(text.trim());
  if (url.protocol !== 'https:' && url.protocol !== 'http:') return refuse('it does not begin with https://');
  if (url.username !== '' || url.password !== '')
    return refuse('it holds a name or a password; these have keys of their own');
  if (url.search !== '' || url.hash !== '') return refuse('it has a query or a fragment');
  return { url: url.href.endsWith('/') ? url.href : `${url.href}/`, detail: null };
}

/** An address as it may be shown and logged: a name and password in it are left out. */
export function shownAddress(address: string): string {
  return address.replace(/^(\s*[a-z][a-z\d+.-]*:)?\/\/[^/?#]*@/i, '$1//…@');
}
