/** A drawn design: a page to photograph, and where a person would cut it. */
export interface Design {
  readonly name: string;
  readonly width: number;
  readonly height: number;
  /** Device pixels to a CSS pixel when it is photographed. */
  readonly scale?: number;
  readonly html: string;
  /** The ends of bands, in CSS px, each with the ends of its columns. */
  readonly bands: readonly (readonly [to: number, columns?: readonly number[]])[];
}

/** A box of the design at a place, with what stands in it. */
function box(left: number, top: number, width: number, height: number, style: string, content = ''): string {
  return `<div style="position:absolute;left:${left}px;top:${top}px;width:${width}px;height:${height}px;${style}">${content}</div>`;
}

/** Text at a place: its first line's box begins there. */
function text(left: number, top: number, width: number, size: number, words: string, style = ''): string {
  const font = `font:${size}px/${Math.round(size * 1.4)}px 'Liberation Sans',sans-serif`;
  return `<div style="position:absolute;left:${left}px;top:${top}px;width:${width}px;${font};${style}">${words}</div>`;
}

/** A photograph, so to speak: sky, hills, a shed, all with the grain of a film. */
function photograph(left: number, top: number, width: number, height: number, seed: number): string {
  return `<canvas data-seed="${seed}" width="${width}" height="${height}" style="position:absolute;left:${left}px;top:${top}px"></canvas>`;
}

/** Draws the photographs of a page. */
const painter = `<script>
for (const canvas of document.querySelectorAll('canvas')) {
  const { width, height } = canvas;
  const brush = canvas.getContext('2d');
  let state = Number(canvas.dataset.seed);
  const random = () => ((state = (state * 1103515245 + 12345) % 2147483648) / 2147483648);
  const sky = brush.createLinearGradient(0, 0, 0, height);
  sky.addColorStop(0, '#5d86a8');
  sky.addColorStop(1, '#d9c9a3');
  brush.fillStyle = sky;
  brush.fillRect(0, 0, width, height);
  for (let hill = 0; hill < 3; hill += 1) {
    brush.fillStyle = ['#7b8b62', '#5d7148', '#3e5233'][hill];
    brush.beginPath();
    brush.moveTo(0, height);
    for (let x = 0; x <= width; x += 10)
      brush.lineTo(x, height * (0.55 + hill * 0.13) + 25 * Math.sin(x / (60 + 20 * hill) + state % 7));
    brush.lineTo(width, height);
    brush.fill();
  }
  brush.fillStyle = '#8a3b2a';
  brush.fillRect(width * 0.6, height * 0.45, width * 0.2, height * 0.35);
  const pixels = brush.getImageData(0, 0, width, height);
  for (let at = 0; at < pixels.data.length; at += 4) {
    const grain = (random() - 0.5) * 22;
    for (let channel = 0; channel < 3; channel += 1) pixels.data[at + channel] += grain;
  }
  brush.putImageData(pixels, 0, 0);
}
</script>`;

const words =
  'The lathe is back from its long repair, and the bench beside it has a new vice. Come and try both on Saturday, with wood of your own or ours.';

function page(body: string, ground = '#ffffff'): string {
  return `<!doctype html><html><body style="margin:0;background:${ground};color:#26332b">${body}${painter}</body></html>`;
}

/** Designs as drawing programs make them, and their cuts as a person makes them. */
export const designs: readonly Design[] = [
  {
    name: 'bands of flat colours',
    width: 600,
    height: 640,
    html: page(
      box(0, 0, 600, 120, 'background:#1f4d3a') +
        text(40, 38, 520, 30, 'Alder Lane Tool Library', 'color:#fff') +
        text(40, 150, 520, 26, 'Open all summer') +
        text(40, 200, 520, 16, words) +
        box(0, 340, 600, 160, 'background:#e8c15a') +
        text(150, 400, 300, 24, 'Borrow a ladder', 'text-align:center') +
        box(0, 500, 600, 140, 'background:#26332b') +
        text(40, 540, 520, 13, `14 Alder Lane, Harrowby<br>Stop these letters`, 'color:#fff'),
    ),
    bands: [[120], [340], [500], [640]],
  },
  {
    name: 'columns',
    width: 600,
    height: 620,
    html: page(
      box(0, 0, 600, 90, 'background:#7a2e1d') +
        text(24, 28, 200, 24, 'Tools', 'color:#fff') +
        // Three cards with gutters between them.
        [0, 1, 2]
          .map(
            (card) =>
              box(20 + card * 190, 120, 180, 200, 'background:#f0e6d2') +
              box(40 + card * 190, 140, 140, 90, 'background:#5d7148') +
              text(40 + card * 190, 250, 140, 16, ['Step ladder', 'Hand plane', 'Drill and bits'][card] ?? ''),
          )
          .join('') +
        // Two panels that touch.
        box(0, 360, 240, 260, 'background:#1f4d3a') +
        text(30, 400, 180, 20, 'Saturday at ten', 'color:#fff') +
        text(30, 460, 180, 15, 'Bring what is broken.', 'color:#fff') +
        box(240, 360, 360, 260, 'background:#e8c15a') +
        text(270, 400, 300, 20, 'What to bring') +
        text(270, 450, 300, 15, words),
    ),
    bands: [[90], [360, [205, 395, 600]], [620, [240, 600]]],
  },
  {
    name: 'photographs from side to side',
    width: 600,
    height: 900,
    html: page(
      box(0, 0, 600, 90, 'background:#26332b') +
        text(40, 30, 500, 22, 'The shed in June', 'color:#fff') +
        photograph(0, 90, 600, 280, 7) +
        text(40, 400, 520, 24, 'A roof at last') +
        text(40, 446, 520, 16, words) +
        photograph(0, 560, 600, 220, 21) +
        box(0, 780, 600, 120, 'background:#e8c15a') +
        text(40, 826, 520, 16, 'See you on Saturday'),
    ),
    bands: [[90], [370], [560], [780], [900]],
  },
  {
    name: 'gradients',
    width: 600,
    height: 860,
    html: page(
      box(0, 0, 600, 300, 'background:linear-gradient(#1f4d3a,#8fb59b)') +
        text(60, 110, 480, 36, 'Members’ evening', 'color:#fff;text-align:center') +
        box(0, 300, 600, 160, 'background:linear-gradient(90deg,#7a2e1d,#e8c15a)') +
        text(60, 360, 480, 20, 'Thursday, 18 June, at seven', 'color:#fff') +
        text(40, 500, 520, 16, words) +
        box(0, 620, 600, 240, 'background:linear-gradient(160deg,#26332b,#5d7148)') +
        text(40, 720, 520, 18, 'Tea and cake are on the house', 'color:#fff'),
    ),
    bands: [[300], [460], [620], [860]],
  },
  {
    name: 'text on one colour',
    width: 600,
    height: 760,
    html: page(
      // The boxes of lines are larger than their ink: places are those of the ink, as a person sees it.
      box(60, 60, 480, 40, 'background:#26332b') +
        text(60, 112, 480, 16, words) +
        box(60, 260, 300, 30, 'background:#26332b') +
        text(60, 300, 480, 16, words) +
        box(60, 470, 480, 60, 'background:#1f4d3a;border-radius:30px') +
        box(60, 610, 480, 2, 'background:#26332b') +
        box(60, 622, 200, 12, 'background:#26332b') +
        box(60, 642, 260, 12, 'background:#26332b'),
      '#f0e6d2',
    ),
    bands: [[216], [415], [570], [760]],
  },
  {
    name: 'a picture beside text',
    width: 600,
    height: 560,
    html: page(
      text(40, 40, 520, 28, 'New on the shelf') +
        box(40, 90, 520, 3, 'background:#1f4d3a') +
        photograph(40, 140, 250, 160, 3) +
        text(320, 136, 240, 20, 'Hand plane') +
        text(320, 176, 240, 15, 'Sharpened and set; takes a shaving you can read through.') +
        photograph(310, 360, 250, 160, 11) +
        text(40, 356, 240, 20, 'Step ladder') +
        text(40, 396, 240, 15, 'Six steps, and a tray for the paint.'),
    ),
    bands: [[116], [330, [305, 600]], [560, [286, 600]]],
  },
  {
    name: 'a tall newsletter',
    width: 600,
    height: 4000,
    html: page(
      box(20, 20, 560, 3960, 'background:#ffffff') +
        box(20, 20, 560, 130, 'background:#1f4d3a') +
        text(60, 64, 480, 30, 'Alder Lane Tool Library', 'color:#fff') +
        photograph(20, 150, 560, 330, 5) +
        Array.from({ length: 8 }, (_, story) => {
          const top = 480 + story * 400;
          return (
            box(20, top, 560, 400, `background:${story % 2 === 0 ? '#ffffff' : '#f0e6d2'}`) +
            text(60, top + 40, 480, 26, `Story ${story + 1}`) +
            text(60, top + 90, 480, 16, `${words} ${words}`) +
            box(60, top + 300, 200, 50, 'background:#7a2e1d')
          );
        }).join('') +
        box(20, 3680, 560, 300, 'background:#26332b') +
        text(60, 3800, 480, 14, '14 Alder Lane, Harrowby', 'color:#fff'),
      '#d9d9d0',
    ),
    bands: [
      [20],
      [150],
      [480],
      ...Array.from({ length: 8 }, (_, story): [number][] => [[480 + story * 400 + 247], [880 + story * 400]]).flat(),
      [3980],
      [4000],
    ],
  },
];
