/** A whole number with commas between its thousands. The engine's own writer of numbers first reads the tables of all languages. */
export const thousands = (count: number): string => String(count).replace(/\B(?=(?:\d{3})+$)/g, ',');
