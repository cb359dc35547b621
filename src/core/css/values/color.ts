/** The colours that HTML has known by name since its beginning; old clients read no others. */
const oldNames = /^(?:white|black|red|green|blue|gray|silver|maroon|navy|teal|olive|purple|yellow|lime|aqua|fuchsia)$/i;

/** A colour as old attributes take it: `#rrggbb` or one of the old names; null for what old clients do not read. */
export function legacyColor(value: string): string | null {
  if (/^#[0-9a-f]{6}$/i.test(value)) return value;
  const short = /^#([0-9a-f])([0-9a-f])([0-9a-f])$/i.exec(value);
  if (short !== null)
    return `#${short
      .slice(1)
      .map((digit) => digit + digit)
      .join('')}`;
  const rgb = /^rgb\(\s*(\d+)[\s,]+(\d+)[\s,]+(\d+)\s*\)$/i.exec(value);
  if (rgb !== null)
    return `#${rgb
      .slice(1)
      .map((part) => hexByte(Number(part)))
      .join('')}`;
  return oldNames.test(value) ? value.toLowerCase() : null;
}

function hexByte(value: number): string {
  return Math.min(255, value).toString(16).padStart(2, '0');
}
