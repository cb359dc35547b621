/** A name for the items of a list that has none: the singular where English shows one, and none that is in use. */
export function inventedItemName(list: string, taken: ReadonlySet<string>): string {
  const last = list.split('.').pop() ?? '';
  const singular = singularOf(last);
  const first = singular === last || singular === '' ? 'item' : singular;
  return freeName(first, taken);
}

/** The name itself, or with a number where it is taken. */
export function freeName(name: string, taken: ReadonlySet<string>): string {
  if (!taken.has(name)) return name;
  for (let number = 2; ; number += 1) {
    const candidate = `${name}_${number}`;
    if (!taken.has(candidate)) return candidate;
  }
}

function singularOf(plural: string): string {
  if (/[^aeiou]ies$/i.test(plural)) return `${plural.slice(0, -3)}y`;
  if (/(?:s|x|z|ch|sh)es$/i.test(plural)) return plural.slice(0, -2);
  return /[^s]s$/i.test(plural) ? plural.slice(0, -1) : plural;
}
