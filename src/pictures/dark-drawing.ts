/** So much of a picture is transparent, and so dark is the rest, where it vanishes on a dark ground. */
const LEAST_CLEAR = 0.2;
const MOST_LIGHT = 70;

/** Whether a picture is a drawing in dark colours on nothing: a logo that a dark ground swallows. */
export async function darkOnNothing(bytes: Uint8Array): Promise<boolean> {
  const { default: sharp } = await import('sharp');
  try {
    const { hasAlpha } = await sharp(bytes).metadata();
    if (!hasAlpha) return false;
    const image = sharp(bytes).resize({ width: 120, withoutEnlargement: true }).ensureAlpha();
    const { data } = await image.raw().toBuffer({ resolveWithObject: true });
    let [clear, seen, light] = [0, 0, 0];
    for (let at = 0; at < data.length; at += 4) {
      const alpha = data[at + 3] ?? 0;
      if (alpha < 40) clear += 1;
      if (alpha < 200) continue;
      seen += 1;
      light += 0.2126 * (data[at] ?? 0) + 0.7152 * (data[at + 1] ?? 0) + 0.0722 * (data[at + 2] ?? 0);
    }
    return seen > 0 && clear / (data.length / 4) >= LEAST_CLEAR && light / seen <= MOST_LIGHT;
  } catch {
    // What cannot be read is told elsewhere.
    return false;
  }
}
