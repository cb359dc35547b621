// How long slicing a drawn newsletter of 600 × 4000 px takes, beside what reading and writing its pixels takes alone.
// `npm run build && node bench/slice.mjs`
import sharp from 'sharp';
import { findCuts } from '../dist/core/slices/find-cuts.js';
import { shownGrid } from '../dist/core/slices/plan.js';
import { cutPicture, readPixels } from '../dist/pictures/cut-picture.js';
import { drawOverview } from '../dist/pictures/draw-overview.js';

const [width, height] = [600, 4000];
const bands = Array.from({ length: 10 }, (_, index) => {
  const top = index * 400;
  const lines = Array.from({ length: 8 }, (_, line) => {
    const words = Array.from({ length: 12 }, (_, word) => {
      const x = 60 + word * 40;
      return `<rect x="${x}" y="${top + 110 + line * 22}" width="${22 + ((word * 7 + line * 5) % 14)}" height="11"/>`;
    });
    return words.join('');
  });
  const ground = ['#fff', '#f0e6d2', '#e8c15a'][index % 3];
  return `<rect y="${top}" width="600" height="400" fill="${ground}"/><rect x="60" y="${top + 40}" width="300" height="30" fill="#1f4d3a"/>${lines.join('')}`;
});
const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${bands.join('')}</svg>`;
const bytes = await sharp(Buffer.from(svg)).png().toBuffer();

async function time(work) {
  const runs = [];
  for (let run = 0; run < 5; run += 1) {
    const started = performance.now();
    await work();
    runs.push(performance.now() - started);
  }
  return runs.sort((a, b) => a - b)[2];
}

const pixels = await readPixels(bytes);
const { bands: cuts } = findCuts(pixels);
const place = { source: null, span: null };
const plan = {
  size: { width, height },
  width,
  link: null,
  bands: cuts.map(({ to }, index) => [
    {
      name: `band-${index + 1}`,
      alt: '',
      href: null,
      target: null,
      live: null,
      jpeg: null,
      region: { left: 0, top: cuts[index - 1]?.to ?? 0, right: width, bottom: to },
      place,
    },
  ]),
};
const floor = await time(() => sharp(bytes).png({ compressionLevel: 9 }).toBuffer());
const found = await time(async () => findCuts(await readPixels(bytes)));
const cut = await time(() => cutPicture(pixels, plan, shownGrid(plan.size, width)));
const drawn = await time(() =>
  drawOverview(
    pixels,
    plan.bands.flat().map(({ region }) => region),
  ),
);
const ratio = (milliseconds) => `${milliseconds.toFixed(0)} ms, ${(milliseconds / floor).toFixed(1)} × the floor`;
console.log(`${width} × ${height} px, ${cuts.length} bands`);
console.log(`reading and writing its pixels: ${floor.toFixed(0)} ms (the floor)`);
console.log(`finding cuts: ${ratio(found)}`);
console.log(`cutting:      ${ratio(cut)}`);
console.log(`overview:     ${ratio(drawn)}`);
