// Draws the pictures of the sample project: `npm run demo:pictures`. Everything is drawn here, letters included, so that
// the result depends on no font and on nobody else's picture.
import { mkdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';

const folder = fileURLToPath(new URL('images/', import.meta.url));
mkdirSync(folder, { recursive: true });

const colors = {
  green: '#2f5d50',
  leaf: '#8fb39a',
  cream: '#fffdf8',
  sand: '#efe6d2',
  ink: '#2b2a26',
  rust: '#b4532a',
  steel: '#8b949c',
  sky: '#dbe6e4',
};

/** Letters as strokes on a grid 4 wide and 6 high. */
const letters = {
  A: 'M0 6 L2 0 L4 6 M0.8 4 H3.2',
  B: 'M0 0 V6 H2.6 Q4 6 4 4.5 Q4 3 2.6 3 H0 M2.4 3 Q3.6 3 3.6 1.5 Q3.6 0 2.4 0 H0',
  D: 'M0 0 V6 H1.6 Q4 6 4 3 Q4 0 1.6 0 Z',
  E: 'M4 0 H0 V6 H4 M0 3 H3',
  I: 'M2 0 V6',
  L: 'M0 0 V6 H3.8',
  N: 'M0 6 V0 L4 6 V0',
  M: 'M0 6 V0 L2 3.4 L4 0 V6',
  O: 'M2 0 Q4 0 4 3 Q4 6 2 6 Q0 6 0 3 Q0 0 2 0',
  P: 'M0 6 V0 H2.4 Q4 0 4 1.7 Q4 3.4 2.4 3.4 H0',
  R: 'M0 6 V0 H2.4 Q4 0 4 1.6 Q4 3.2 2.4 3.2 H0 M2 3.2 L4 6',
  T: 'M0 0 H4 M2 0 V6',
  Y: 'M0 0 L2 3 L4 0 M2 3 V6',
};

function lettering(text, x, y, size, color, weight) {
  const step = size * 6;
  return [...text]
    .map((letter, index) =>
      letter === ' '
        ? ''
        : `<path d="${letters[letter]}" transform="translate(${x + index * step} ${y}) scale(${size})" fill="none" stroke="${color}" stroke-width="${weight / size}" stroke-linecap="round" stroke-linejoin="round"/>`,
    )
    .join('');
}

function svg(width, height, content) {
  return Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}">${content}</svg>`,
  );
}

const sign = svg(
  480,
  120,
  `<rect width="480" height="120" rx="14" fill="${colors.green}"/><rect x="8" y="8" width="464" height="104" rx="9" fill="none" stroke="${colors.leaf}" stroke-width="3"/>` +
    `<g transform="translate(30 26)"><path d="M0 68 L34 0 L68 68 Z" fill="${colors.rust}"/><rect x="26" y="38" width="16" height="30" fill="${colors.cream}"/></g>` +
    lettering('ALDER LANE', 122, 26, 5.4, colors.cream, 5) +
    lettering('TOOL LIBRARY', 122, 72, 4.4, colors.leaf, 4),
);

const lathe = svg(
  528,
  396,
  `<rect width="528" height="396" fill="${colors.sky}"/><rect y="300" width="528" height="96" fill="${colors.sand}"/>` +
    [0, 1, 2, 3]
      .map(
        (n) =>
          `<rect x="${30 + n * 130}" y="40" width="90" height="8" fill="${colors.leaf}"/><rect x="${60 + n * 130}" y="48" width="${14 + n * 4}" height="${60 + n * 12}" rx="4" fill="${n % 2 ? colors.steel : colors.rust}"/>`,
      )
      .join('') +
    `<rect x="60" y="276" width="408" height="26" fill="${colors.green}"/><rect x="84" y="302" width="40" height="60" fill="${colors.green}"/><rect x="404" y="302" width="40" height="60" fill="${colors.green}"/>` +
    `<rect x="72" y="160" width="104" height="116" rx="8" fill="${colors.green}"/><circle cx="124" cy="214" r="30" fill="${colors.leaf}"/><circle cx="124" cy="214" r="10" fill="${colors.ink}"/>` +
    `<rect x="176" y="202" width="22" height="24" fill="${colors.steel}"/><path d="M198 198 q40 -22 76 6 q36 24 72 -2 h10 v24 h-10 q-36 -26 -72 -2 q-36 28 -76 6 Z" fill="${colors.rust}"/>` +
    `<rect x="372" y="188" width="68" height="88" rx="6" fill="${colors.green}"/><path d="M356 214 l18 -12 v24 Z" fill="${colors.steel}"/><rect x="250" y="246" width="70" height="30" fill="${colors.steel}"/><rect x="278" y="228" width="12" height="24" fill="${colors.ink}"/>`,
);

function toolPicture(content) {
  return svg(336, 252, `<rect width="336" height="252" fill="${colors.sand}"/>${content}`);
}

const drill = toolPicture(
  `<rect x="70" y="76" width="140" height="64" rx="18" fill="${colors.green}"/><path d="M96 130 h50 l-10 84 h-46 Z" fill="${colors.green}"/><rect x="80" y="196" width="72" height="30" rx="6" fill="${colors.ink}"/>` +
    `<path d="M210 88 h26 l12 10 v20 l-12 10 h-26 Z" fill="${colors.steel}"/><rect x="248" y="104" width="60" height="8" fill="${colors.ink}"/><rect x="150" y="140" width="14" height="24" rx="4" fill="${colors.rust}"/>`,
);

const ladder = toolPicture(
  `<g stroke="${colors.rust}" stroke-width="12" stroke-linecap="round"><path d="M110 226 L150 28 M226 226 L186 28"/><path d="M119 186 H217 M127 146 H209 M135 106 H201 M143 66 H193"/></g>`,
);

const plane = toolPicture(
  `<path d="M46 196 h244 v-34 q-4 -14 -30 -14 h-170 q-40 0 -44 48 Z" fill="${colors.green}"/><path d="M200 150 q6 -50 44 -52 q22 0 18 24 q-10 12 -8 28 Z" fill="${colors.rust}"/><circle cx="92" cy="128" r="20" fill="${colors.rust}"/>` +
    `<path d="M150 160 l26 -66 h14 l-20 66 Z" fill="${colors.steel}"/><rect x="40" y="196" width="256" height="10" fill="${colors.ink}"/><path d="M150 90 q-30 -34 -58 -10 q-14 16 4 22" fill="none" stroke="${colors.rust}" stroke-width="6"/>`,
);

/** The shed at dusk, with room for text on its left. */
const shed = svg(
  1200,
  720,
  `<defs><linearGradient id="dusk" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="#1d3a33"/><stop offset="1" stop-color="${colors.green}"/></linearGradient></defs>` +
    `<rect width="1200" height="720" fill="url(#dusk)"/><circle cx="1010" cy="130" r="54" fill="${colors.sand}" opacity="0.8"/>` +
    `<path d="M0 610 q300 -60 620 -10 q320 50 580 -20 v140 h-1200 Z" fill="#16302a"/>` +
    `<path d="M700 360 L930 210 L1160 360 Z" fill="${colors.rust}"/><rect x="730" y="360" width="400" height="250" fill="#24483f"/>` +
    `<rect x="770" y="400" width="120" height="90" fill="#f3d9a0"/><path d="M830 400 v90 M770 445 h120" stroke="#24483f" stroke-width="6"/>` +
    `<rect x="960" y="410" width="120" height="200" fill="#163029"/><circle cx="1064" cy="512" r="7" fill="#f3d9a0"/>` +
    `<path d="M640 610 l40 -210 M690 610 l-20 -210 M650 560 h34 M656 520 h28 M662 480 h22" stroke="${colors.sand}" stroke-width="9" stroke-linecap="round" fill="none"/>`,
);

/** Small signs for places where the library can be met. */
function badge(content) {
  return svg(
    96,
    96,
    `<circle cx="48" cy="48" r="48" fill="${colors.green}"/><g fill="none" stroke="${colors.cream}" stroke-width="6" stroke-linejoin="round" stroke-linecap="round">${content}</g>`,
  );
}

const talk = badge('<path d="M24 30 h48 v30 h-26 l-12 12 v-12 h-10 Z"/>');
const diary = badge('<path d="M26 30 h44 v40 h-44 Z M26 44 h44 M38 22 v12 M58 22 v12"/>');
const photos = badge('<path d="M22 36 h14 l6 -8 h12 l6 8 h14 v34 h-52 Z"/><circle cx="48" cy="52" r="10"/>');

/** The invitation to Repair Day: a mended chair under bunting. */
const poster = svg(
  1200,
  760,
  `<rect width="1200" height="760" fill="${colors.sand}"/><rect x="24" y="24" width="1152" height="712" rx="18" fill="none" stroke="${colors.green}" stroke-width="8"/>` +
    Array.from(
      { length: 12 },
      (_, n) =>
        `<path d="M${60 + n * 92} 60 h64 l-32 56 Z" fill="${[colors.rust, colors.green, colors.leaf][n % 3]}"/>`,
    ).join('') +
    lettering('REPAIR DAY', 150, 180, 16, colors.green, 16) +
    `<rect x="150" y="310" width="900" height="10" rx="5" fill="${colors.rust}"/>` +
    `<g fill="none" stroke="${colors.rust}" stroke-width="20" stroke-linecap="round" stroke-linejoin="round"><path d="M470 660 V380 H560 V540 H730 V660 M560 540 V660 M470 460 H560"/></g>` +
    `<path d="M452 586 h36 v16 h-36 Z M712 590 h36 v16 h-36 Z" fill="${colors.steel}"/>` +
    `<g fill="${colors.green}"><rect x="880" y="470" width="36" height="190" rx="10"/><rect x="820" y="420" width="156" height="60" rx="14"/></g>` +
    `<g stroke="${colors.steel}" stroke-width="22" stroke-linecap="round"><path d="M230 650 L340 470"/></g><circle cx="352" cy="450" r="34" fill="none" stroke="${colors.steel}" stroke-width="20"/>`,
);

const png = { compressionLevel: 9, palette: true, colours: 64 };
await sharp(sign).png(png).toFile(`${folder}sign.png`);
await sharp(shed).jpeg({ quality: 72 }).toFile(`${folder}shed.jpg`);
await sharp(lathe).jpeg({ quality: 82 }).toFile(`${folder}lathe.jpg`);
for (const [name, picture] of Object.entries({ poster, drill, ladder, plane, talk, diary, photos }))
  await sharp(picture).png(png).toFile(`${folder}${name}.png`);
