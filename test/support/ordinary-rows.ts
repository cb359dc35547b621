import type { OrdinaryPiece } from './ordinary-pieces.js';

const TEXT = 'Saws, planes and drills are back on the shelf, sharpened and ready for spring.';

/** Items over several rows, rows in lines of text, and lines that wrap with space between their items. */
export const rowPieces: readonly OrdinaryPiece[] = [
  [
    'grid-row-span',
    '.g{display:grid;grid-template-columns:160px 1fr;gap:16px}.a{grid-row:span 2;background:#eee}.g p{margin:0}',
    `<div class="g"><div class="a"><p>${TEXT}</p></div><p>One ${TEXT}</p><p>Two ${TEXT}</p></div>`,
  ],
  [
    'grid-row-lines-picture',
    '.g{display:grid;grid-template-columns:1fr 1fr;gap:12px}.a{grid-row:1 / 3}.a img{display:block;width:100%;height:auto}.c{background:#f4efe4;padding:12px}',
    '<div class="g"><div class="a"><img src="../assets/photo.png" alt="shed" width="600" height="300"></div><div class="c">One</div><div class="c">Two</div></div>',
  ],
  [
    'grid-areas-over-rows',
    '.g{display:grid;grid-template-areas:"pic head" "pic text";grid-template-columns:120px 1fr;gap:8px 16px}.pic{grid-area:pic}.head{grid-area:head;margin:0}.text{grid-area:text;margin:0}.pic img{display:block;width:120px;height:120px}@media(max-width:480px){.g{grid-template-areas:"pic" "head" "text";grid-template-columns:1fr}}',
    `<div class="g"><div class="pic"><img src="../assets/icon.png" alt="i"></div><h3 class="head">Title</h3><p class="text">${TEXT}</p></div>`,
  ],
  [
    'grid-block-of-four',
    '.g{display:grid;grid-template-columns:repeat(3,1fr);gap:10px}.g>div{background:#dfe;padding:10px}.big{grid-column:span 2;grid-row:span 2}',
    '<div class="g"><div class="big">Big<br>b<br>b<br>b<br>b</div><div>1</div><div>2</div><div>3</div><div>4</div><div>5</div></div>',
  ],
  [
    'grid-side-over-rows',
    '.g{display:grid;grid-template-columns:2fr 1fr;grid-template-rows:auto auto;gap:16px}.side{grid-column:2;grid-row:1 / span 2;background:#eee;padding:16px}',
    `<div class="g"><div>One ${TEXT}</div><div>Two ${TEXT}</div><aside class="side">Side</aside></div>`,
  ],
  [
    'inline-flex-icon-and-text',
    '.b{display:inline-flex;align-items:center;gap:6px}.b img{width:16px;height:16px}',
    `<p>Open <span class="b"><img src="../assets/icon.png" alt="">on Saturday</span> from nine. ${TEXT}</p>`,
  ],
  [
    'inline-flex-links',
    '.r{display:inline-flex;gap:12px}.r a{color:#2f5d50}',
    '<p>Follow us: <span class="r"><a href="https://a.example/1">Feed</a><a href="https://a.example/2">Photos</a></span></p>',
  ],
  [
    'inline-flex-number',
    '.n{display:inline-flex;width:24px;height:24px;align-items:center;justify-content:center;border-radius:50%;background:#2f5d50;color:#fff;font-size:14px}',
    `<p><span class="n">1</span> ${TEXT}</p>`,
  ],
  [
    'wrap-between-two',
    '.r{display:flex;flex-wrap:wrap;justify-content:space-between}.c{width:48%;margin-bottom:16px;background:#eee;padding:8px;box-sizing:border-box}',
    `<div class="r"><div class="c">1 ${TEXT}</div><div class="c">2</div><div class="c">3</div><div class="c">4 ${TEXT}</div></div>`,
  ],
  [
    'wrap-between-three',
    '.r{display:flex;flex-wrap:wrap;justify-content:space-between}.c{width:31%;margin-bottom:16px;background:#eee}@media(max-width:480px){.c{width:100%}}',
    `<div class="r"><div class="c">1 ${TEXT}</div><div class="c">2</div><div class="c">3</div><div class="c">4</div><div class="c">5</div><div class="c">6</div></div>`,
  ],
  [
    'wrap-between-basis',
    '.r{display:flex;flex-wrap:wrap;justify-content:space-between}.c{flex-basis:48%;margin-bottom:12px}',
    `<div class="r"><div class="c">1 ${TEXT}</div><div class="c">2</div><div class="c">3</div></div>`,
  ],
  [
    'wrap-gap-in-percent',
    '.r{display:flex;flex-wrap:wrap;gap:2%}.c{width:49%;background:#eee}',
    `<div class="r"><div class="c">1 ${TEXT}</div><div class="c">2</div><div class="c">3</div><div class="c">4</div></div>`,
  ],
  [
    'inline-flex-text-and-icon',
    '.b{display:inline-flex;align-items:center;gap:6px;font-size:14px}.b img{width:20px;height:20px}',
    `<p>Open <a class="b" href="https://a.example/">on Saturday <img src="../assets/icon.png" alt=""></a> from nine. ${TEXT}</p>`,
  ],
  [
    'inline-flex-portrait',
    '.b{display:inline-flex;align-items:center;gap:8px}.b img{width:40px;height:40px}',
    `<p>Open <span class="b"><img src="../assets/icon.png" alt=""> Ada</span> from nine. ${TEXT}</p>`,
  ],
  [
    'inline-flex-padded-links',
    '.r{display:inline-flex;gap:12px}.r a{padding:2px 8px;background:#eee}',
    '<p>Follow us: <span class="r">\n<a href="https://a.example/1">Feed</a>\n<a href="https://a.example/2">Photos</a>\n</span></p>',
  ],
  [
    'inline-flex-baseline',
    '.r{display:inline-flex;align-items:baseline;gap:4px}.r b{font-size:24px;line-height:1}.r small{font-size:12px}',
    '<p>Only <span class="r"><small>£</small><b>4</b><small>a day</small></span> for all</p>',
  ],
  [
    'inline-flex-badge',
    '.r{display:inline-flex;align-items:center;gap:4px;padding:4px 10px;background:#e7f0ec;border-radius:99px}.r img{width:12px;height:12px}',
    '<p>Only <span class="r"><img src="../assets/icon.png" alt="">New</span> for all</p>',
  ],
  [
    'inline-grid-centred',
    '.n{display:inline-grid;place-items:center;width:28px;height:28px;background:#2f5d50;color:#fff;border-radius:14px}',
    `<p><span class="n">7</span> ${TEXT}</p>`,
  ],
  [
    'inline-flex-at-the-end',
    '.n{display:inline-flex;width:80px;justify-content:flex-end;background:#eee}',
    `<p>Price <span class="n">£7</span> ${TEXT}</p>`,
  ],
  [
    'inline-flex-arrow',
    '.b{display:inline-flex;align-items:center;padding:10px 20px;background:#2f5d50;color:#fff;gap:8px}.b::after{content:"\\2192"}',
    '<p>Go <a class="b" href="https://a.example/">Book</a> now</p>',
  ],
  [
    'inline-flex-bottoms',
    '.b{display:inline-flex;align-items:flex-end;gap:6px}.b img{width:16px;height:32px}',
    `<p>Open <span class="b">on <img src="../assets/icon.png" alt=""></span> from nine. ${TEXT}</p>`,
  ],
  [
    'inline-flex-in-a-list',
    'li .b{display:inline-flex;align-items:center;gap:6px}.b img{width:16px;height:16px}',
    '<ul><li>Open <span class="b"><img src="../assets/icon.png" alt="">on Saturday</span></li></ul>',
  ],
  [
    'inline-flex-in-a-table',
    'td .b{display:inline-flex;align-items:center;gap:6px}.b img{width:16px;height:16px}table{width:100%}',
    '<table><tr><td>Open <span class="b"><img src="../assets/icon.png" alt="">on Saturday</span></td></tr></table>',
  ],
  [
    'grid-rows-share-what-is-left',
    '.g{display:grid;grid-template-columns:1fr 1fr;gap:12px}.a{grid-row:span 2;background:#2f5d50;color:#fff;padding:20px}.c{background:#f4efe4;padding:12px;border:1px solid #c9bfa5;border-radius:8px}.c p,.a p{margin:0}@media(max-width:480px){.g{grid-template-columns:1fr}.a{grid-row:auto}}',
    `<div class="g"><div class="a"><p>${TEXT} ${TEXT} ${TEXT} ${TEXT}</p></div><div class="c">One</div><div class="c">Two<br>lines</div></div>`,
  ],
  [
    'grid-rows-auto-and-fr',
    '.g{display:grid;grid-template-columns:160px 1fr;grid-template-rows:auto 1fr;gap:12px}.a{grid-row:1/-1;grid-row:1/3;background:#2f5d50;color:#fff;padding:20px}.c{background:#f4efe4;padding:12px;border:1px solid #c9bfa5;border-radius:8px}.c p,.a p{margin:0}',
    `<div class="g"><div class="a"><p>${TEXT} ${TEXT} ${TEXT} ${TEXT}</p></div><div class="c">One</div><div class="c">Two<br>lines</div></div>`,
  ],
  [
    'grid-rows-centred',
    '.g{display:grid;grid-template-columns:160px 1fr;gap:12px;align-items:center}.a{grid-row:span 2}.c{background:#f4efe4;padding:12px;border:1px solid #c9bfa5;border-radius:8px}.c p,.a p{margin:0}',
    `<div class="g"><div class="a"><p>${TEXT} ${TEXT} ${TEXT} ${TEXT}</p></div><div class="c">One</div><div>Two<br>lines</div></div>`,
  ],
  [
    'grid-rows-three',
    '.g{display:grid;grid-template-columns:160px 1fr;gap:12px}.a{grid-row:span 3}.c:last-child{align-self:end}.c{background:#f4efe4;padding:12px;border:1px solid #c9bfa5;border-radius:8px}.c p,.a p{margin:0}',
    `<div class="g"><div class="a"><p>${TEXT} ${TEXT} ${TEXT} ${TEXT}</p></div><div class="c">One</div><div>Two<br>lines</div><div class="c">Last</div></div>`,
  ],
  [
    'grid-side-first-in-source',
    '.g{display:grid;grid-template-columns:1fr 200px;gap:8px 24px}.side{grid-row:1/3;grid-column:2;background:#eee;padding:16px}@media(max-width:540px){.g{grid-template-columns:1fr}.side{grid-row:auto;grid-column:auto}}',
    `<div class="g"><aside class="side"><p>${TEXT} ${TEXT}</p></aside><h2>Title</h2><p>${TEXT}</p></div>`,
  ],
  [
    'grid-rows-regrouped',
    '.g{display:grid;grid-template-columns:repeat(4,1fr);gap:8px}.a{grid-column:span 2;grid-row:span 2;background:#dde}.w{grid-column:span 2}@media(max-width:600px){.g{grid-template-columns:1fr 1fr}}.c{background:#f4efe4;padding:12px;border:1px solid #c9bfa5;border-radius:8px}.c p,.a p{margin:0}',
    `<div class="g"><div class="a"><p>${TEXT} ${TEXT} ${TEXT} ${TEXT}</p></div><div class="c w">One</div><div class="c w">Two</div><div class="c">3</div><div class="c">4</div><div class="c">5</div><div class="c">6</div></div>`,
  ],
  [
    'grid-areas-reordered',
    '.g{display:grid;grid-template-areas:"a b" "a c" "d d";grid-template-columns:1fr 2fr;gap:10px}.a{grid-area:a}.b{grid-area:b}.cc{grid-area:c}.d{grid-area:d}@media(max-width:500px){.g{grid-template-areas:"b" "a" "c" "d";grid-template-columns:1fr}}.c{background:#f4efe4;padding:12px;border:1px solid #c9bfa5;border-radius:8px}.c p,.a p{margin:0}',
    `<div class="g"><div class="a"><p>${TEXT} ${TEXT} ${TEXT} ${TEXT}</p></div><div class="b c">B</div><div class="cc c">C</div><div class="d c">D</div></div>`,
  ],
  [
    'grid-picture-over-three-rows',
    '.g{display:grid;grid-template-columns:120px 1fr;column-gap:16px}.g img{grid-row:1/4;width:120px;height:120px}.g h3,.g p{margin:0}',
    '<div class="g"><img src="../assets/icon.png" alt="x"><h3>Hand plane</h3><p>£4 a day</p><p><a href="https://a.example/">Book</a></p></div>',
  ],
  [
    'grid-rows-of-columns',
    '.g{display:grid;grid-template-columns:1fr 1fr;gap:12px}.a{grid-row:span 2}.b{display:flex;flex-direction:column;background:#eee;padding:12px}.b a{margin-top:auto}.c{background:#f4efe4;padding:12px;border:1px solid #c9bfa5;border-radius:8px}.c p,.a p{margin:0}',
    `<div class="g"><div class="a"><p>${TEXT} ${TEXT} ${TEXT} ${TEXT}</p></div><div class="b"><p>One</p><a href="https://a.example/">Go</a></div><div class="b"><p>Two</p><a href="https://a.example/">Go</a></div></div>`,
  ],
  [
    'grid-rows-of-pictures',
    '.g{display:grid;grid-template-columns:1fr 1fr;gap:12px}.a{grid-row:span 2}.i img{display:block;width:100%;height:auto}',
    `<div class="g"><div class="a"><p>${TEXT} ${TEXT} ${TEXT} ${TEXT}</p></div><div class="i"><img src="../assets/photo.png" alt="shed" width="600" height="300"></div><div class="i"><img src="../assets/photo.png" alt="shed" width="600" height="300"></div></div>`,
  ],
  [
    'grid-rows-date',
    '.g{display:grid;grid-template-columns:auto 1fr;gap:0 12px}.a{grid-row:span 2;font-size:40px;line-height:1}.g p{margin:0}',
    '<div class="g"><div class="a">28</div><p><b>November</b></p><p>Sharpening day</p></div>',
  ],
  [
    'grid-rows-one-empty',
    '.g{display:grid;grid-template-columns:1fr 1fr;grid-template-rows:auto auto;gap:10px}.a{grid-row:1/3;grid-column:2}.b{grid-row:2;grid-column:1}',
    `<div class="g"><div class="a"><p>${TEXT} ${TEXT} ${TEXT} ${TEXT}</p></div><div class="b">Only second row</div></div>`,
  ],
  [
    'wrap-between-five',
    '.r{display:flex;flex-wrap:wrap;justify-content:space-between;}.c{width:31%;margin-bottom:16px;background:#eee}',
    `<div class="r"><div class="c">1</div><div class="c">2 ${TEXT}</div><div class="c">3</div><div class="c">4</div><div class="c">5 ${TEXT}</div></div>`,
  ],
  [
    'wrap-around',
    '.r{display:flex;flex-wrap:wrap;justify-content:space-around;}.c{width:30%;margin-bottom:16px;background:#eee}',
    `<div class="r"><div class="c">1</div><div class="c">2 ${TEXT}</div><div class="c">3</div></div>`,
  ],
  [
    'wrap-evenly',
    '.r{display:flex;flex-wrap:wrap;justify-content:space-evenly;}.c{width:40%;margin-bottom:16px;background:#eee}',
    `<div class="r"><div class="c">1</div><div class="c">2 ${TEXT}</div><div class="c">3</div><div class="c">4</div></div>`,
  ],
  [
    'wrap-between-px',
    '.r{display:flex;flex-wrap:wrap;justify-content:space-between;gap:10px}.c{width:180px;margin-bottom:16px;background:#eee}',
    `<div class="r"><div class="c">1</div><div class="c">2 ${TEXT}</div><div class="c">3</div><div class="c">4</div></div>`,
  ],
  [
    'wrap-between-four-then-two',
    '.r{display:flex;flex-wrap:wrap;justify-content:space-between;}.c{width:23%;margin-bottom:16px;background:#eee}@media(max-width:480px){.c{width:48%}}',
    `<div class="r"><div class="c">1</div><div class="c">2 ${TEXT}</div><div class="c">3</div><div class="c">4</div></div>`,
  ],
  [
    'wrap-between-border-box',
    '*{box-sizing:border-box}.r{display:flex;flex-wrap:wrap;justify-content:space-between;}.c{width:48%;margin-bottom:16px;background:#eee}.c{padding:12px;border:1px solid #ccc}@media(max-width:480px){.c{width:100%}}',
    `<div class="r"><div class="c">1</div><div class="c">2 ${TEXT}</div><div class="c">3</div></div>`,
  ],
  [
    'wrap-px-painted',
    '.r{display:flex;flex-wrap:wrap;gap:8px}.c{width:180px;background:#eee}',
    `<div class="r"><div class="c">1</div><div class="c">2 ${TEXT}</div><div class="c">3</div><div class="c">4</div></div>`,
  ],
  [
    'wrap-calc-painted',
    '.r{display:flex;flex-wrap:wrap;gap:12px}.c{flex:0 0 calc(50% - 6px);background:#eee}',
    `<div class="r"><div class="c">1</div><div class="c">2 ${TEXT}</div><div class="c">3</div><div class="c">4</div></div>`,
  ],
  [
    'wrap-grows-from-calc',
    '.r{display:flex;flex-wrap:wrap;gap:12px}.c{flex:1 1 calc(33.333% - 12px);background:#eee}',
    `<div class="r"><div class="c">1</div><div class="c">2 ${TEXT}</div><div class="c">3</div><div class="c">4</div><div class="c">5 ${TEXT}</div><div class="c">6</div></div>`,
  ],
  [
    'wrap-grows-from-px',
    '.r{display:flex;flex-wrap:wrap;gap:12px}.c{flex:1 1 200px;background:#eee}',
    `<div class="r"><div class="c">1</div><div class="c">2 ${TEXT}</div></div>`,
  ],
  [
    'grid-date-over-two-rows',
    '.ev{display:grid;grid-template-columns:72px 1fr;column-gap:16px;padding:16px 0;border-bottom:1px solid #ddd}.ev time{grid-row:span 2;text-align:center;background:#2f5d50;color:#fff;padding:8px}.ev time b{display:block;font-size:24px;line-height:1}.ev h3{margin:0}.ev p{margin:4px 0 0}',
    `<div class="ev"><time><b>28</b>Nov</time><h3>Sharpening day</h3><p>${TEXT}</p></div>`,
  ],
  [
    'grid-rows-then-blocks',
    '.g{display:grid;grid-template-columns:1fr 1fr;gap:16px}.g>*:first-child{grid-row:1/span 3}.c{border:1px solid #ddd;border-radius:8px;padding:12px}@media(max-width:600px){.g{display:block}.g>*{margin-bottom:12px}}',
    `<div class="g"><div class="c"><p>${TEXT} ${TEXT} ${TEXT}</p></div><div class="c">One</div><div class="c">Two</div><div class="c">Three</div></div>`,
  ],
  [
    'inline-flex-in-a-line-of-facts',
    '.meta{color:#667;font-size:14px}.meta .d{display:inline-flex;align-items:center;gap:4px}.meta img{width:14px;height:14px}',
    '<p class="meta"><span class="d"><img src="../assets/icon.png" alt="">28 November</span> · <span class="d"><img src="../assets/icon.png" alt="">14 Alder Lane</span></p>',
  ],
  [
    'inline-flex-stars',
    '.stars{display:inline-flex}.stars img{width:16px;height:16px}',
    '<p>Rated <span class="stars"><img src="../assets/icon.png" alt="*"><img src="../assets/icon.png" alt="*"><img src="../assets/icon.png" alt="*"></span> by members</p>',
  ],
  [
    'inline-flex-height',
    '.pill{display:inline-flex;align-items:center;height:24px;padding:0 10px;border-radius:12px;background:#e7f0ec;font-size:13px}',
    `<p>Status <span class="pill">Open</span> now. ${TEXT}</p>`,
  ],
  [
    'wrap-team',
    '.team{display:flex;flex-wrap:wrap;justify-content:space-between;text-align:center}.team figure{width:30%;margin:0 0 20px}.team img{width:80px;height:80px;border-radius:50%}@media(max-width:480px){.team figure{width:48%}}',
    '<div class="team"><figure><img src="../assets/icon.png" alt="Ada"><figcaption>Ada</figcaption></figure><figure><img src="../assets/icon.png" alt="Ben"><figcaption>Ben</figcaption></figure><figure><img src="../assets/icon.png" alt="Cleo"><figcaption>Cleo</figcaption></figure><figure><img src="../assets/icon.png" alt="Dan"><figcaption>Dan</figcaption></figure><figure><img src="../assets/icon.png" alt="Eve"><figcaption>Eve</figcaption></figure><figure><img src="../assets/icon.png" alt="Fay"><figcaption>Fay</figcaption></figure></div>',
  ],
  [
    'wrap-grows-last-line',
    '.cards{display:flex;flex-wrap:wrap;gap:20px}.cards>.card{flex:1 1 160px;border:1px solid #ddd;padding:16px;border-radius:8px}',
    '<div class="cards"><div class="card"><h3>One</h3><p>Saws</p></div><div class="card"><h3>Two</h3><p>Short</p></div><div class="card"><h3>Three</h3><p>Short</p></div></div>',
  ],
  [
    'grid-order-on-phones',
    '.hero{display:grid;grid-template-columns:1fr 1fr;align-items:center;gap:32px;background:#f4efe4;padding:32px}.hero h1{margin:0 0 8px;font-size:28px;line-height:1.2}.hero img{width:100%;height:auto;display:block}@media(max-width:520px){.hero{grid-template-columns:1fr;padding:20px}.hero img{order:-1}}',
    `<div class="hero"><div><h1>Spring at the library</h1><p>${TEXT}</p></div><img src="../assets/photo.png" alt="shed" width="600" height="300"></div>`,
  ],
  [
    'stacked-order-turned',
    '.h{display:flex;gap:24px;align-items:center}.h>*{flex:1}.h img{width:100%;height:auto}@media(max-width:520px){.h{flex-direction:column;align-items:stretch}.h .p{order:-1}}',
    `<div class="h"><div><h2>Title</h2><p>${TEXT}</p></div><div class="p"><img src="../assets/photo.png" alt="shed" width="600" height="300"></div></div>`,
  ],
  [
    'stacked-order-turned-by-both',
    '.h{display:flex;gap:24px}.h>*{flex:1}@media(max-width:520px){.h{flex-direction:column}.a{order:2}.b{order:1}}',
    `<div class="h"><div class="a">One ${TEXT}</div><div class="b">Two</div></div>`,
  ],
  [
    'grid-order-of-three',
    '.g{display:grid;grid-template-columns:1fr 1fr 1fr;gap:16px}@media(max-width:520px){.g{grid-template-columns:1fr}.c{order:-1}}',
    `<div class="g"><div class="a">One ${TEXT}</div><div class="b">Two</div><div class="c">Three</div></div>`,
  ],
  [
    'grid-order-everywhere',
    '.g{display:grid;grid-template-columns:1fr 1fr;gap:16px}.c{order:-1}',
    `<div class="g"><div class="a">One ${TEXT}</div><div class="b">Two</div><div class="c">Three</div></div>`,
  ],
  [
    'wrap-grows-four-in-three',
    '.w{display:flex;flex-wrap:wrap;gap:20px}.c{flex:1 1 160px;border:1px solid #ddd;padding:16px}',
    `<div class="w"><div class="c"><h3>1</h3><p>Short</p></div><div class="c"><h3>2</h3><p>${TEXT}</p></div><div class="c"><h3>3</h3><p>Short</p></div><div class="c"><h3>4</h3><p>Short</p></div></div>`,
  ],
  [
    'wrap-full-lines-last-at-the-end',
    '.r{display:flex;flex-wrap:wrap;justify-content:flex-end}.c{width:50%}',
    '<div class="r"><div class="c">One</div><div class="c">Two</div><div class="c">Three</div></div>',
  ],
  [
    'wrap-full-lines-last-apart',
    '.r{display:flex;flex-wrap:wrap;justify-content:space-between;gap:12px}.c{width:calc(33.333% - 8px);background:#eee}',
    '<div class="r"><div class="c">1</div><div class="c">2</div><div class="c">3</div><div class="c">4</div><div class="c">5</div></div>',
  ],
  [
    'shadow-alone-on-a-phrase',
    '.k{box-shadow:2px 2px 6px #888;display:block}',
    '<p>Open <span class="k">Saws and planes</span> today</p>',
  ],
];
