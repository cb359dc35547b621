import { escapeHtml } from '../html/escape.js';
import type { ListChange, MessageChange } from './compare-states.js';
import { describeMessage, isOther, percent, type DescribedMessage } from './describe-change.js';

/** Where the pictures of a view lie, from the page. */
export interface LookPictures {
  readonly view: string;
  readonly share: number;
  readonly before: string;
  readonly after: string;
  readonly difference: string;
}

/** A message on the page. */
export interface ReportedMessage extends DescribedMessage {
  readonly pictures: readonly LookPictures[];
}

const STYLES = `
:root{color-scheme:light dark;--paper:#faf8f3;--sheet:#fff;--ink:#23221e;--faint:#65625a;--line:#d9d4c7;--accent:#2f5d50;--gone:#a32a14;--came:#2f5d50;font:15px/1.45 system-ui,"Liberation Sans",sans-serif}
@media(prefers-color-scheme:dark){:root{--paper:#1b1c1a;--sheet:#252724;--ink:#e9e6dd;--faint:#aaa69a;--line:#3d403b;--accent:#8cc4b2;--gone:#ff9c86;--came:#8cc4b2}}
*{box-sizing:border-box}
body{margin:0 auto;max-width:1320px;padding:20px 20px 60px;background:var(--paper);color:var(--ink)}
h1{font-size:22px;margin:0}
h2{font-size:17px;margin:0}
h3{font-size:14px;margin:16px 0 6px}
p{margin:4px 0}
a{color:var(--accent)}
.faint{color:var(--faint)}
ul{margin:8px 0;padding:0;list-style:none}
.contents li{display:grid;grid-template-columns:minmax(150px,28%) 1fr;gap:0 16px;padding:4px 0;border-bottom:1px solid var(--line);overflow-wrap:anywhere}
section{margin-top:28px;padding:16px;background:var(--sheet);border:1px solid var(--line);border-radius:3px}
.looks{display:grid;grid-template-columns:repeat(3,minmax(0,1fr));gap:14px}
figure{margin:0}
figcaption{font-size:13px;color:var(--faint);margin-bottom:4px}
.looks a{display:block}
.looks img{display:block;width:100%;border:1px solid var(--line);background:#fff}
.lines li{padding:1px 8px;border-left:3px solid;white-space:pre-wrap;overflow-wrap:anywhere;font:13px/1.45 ui-monospace,"DejaVu Sans Mono",monospace}
.gone{border-color:var(--gone)!important;color:var(--gone)}
.came{border-color:var(--came)!important;color:var(--came)}
:focus-visible{outline:2px solid var(--accent);outline-offset:2px}
@media(max-width:700px){.looks{grid-template-columns:1fr}.contents li{grid-template-columns:1fr}}
`;

/**
 * The page that shows what became of messages: what differs in words, links and the like, and each view before, after and what
 * differs.
 * @param since what the state before is called
 */
export function reportPage(messages: readonly ReportedMessage[], project: string, since: string): string {
  const groups = grouped(messages.filter(isOther));
  const title = `${project}: changes since ${since}`;
  const others = new Set(groups.map(({ message: { name } }) => name));
  const same = names(messages).filter((name) => !others.has(name));
  const all = names(messages);
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title>${escapeHtml(title)}</title><style>${STYLES}</style></head>
<body><header><h1>${escapeHtml(title)}</h1><p class="faint">${all.length - same.length} of ${all.length} messages differ.${same.length === 0 ? '' : ` The same: ${escapeHtml(same.join(', '))}.`}</p></header>
<nav aria-label="Messages that differ"><ul class="contents">${groups.map(contentsRow).join('')}</ul></nav>
<main>${groups.map(section).join('')}</main></body></html>
`;
}

/** Outputs of a message that differ in the same way. */
interface Group {
  readonly title: string;
  readonly id: string;
  readonly message: ReportedMessage;
}

function grouped(messages: readonly ReportedMessage[]): Group[] {
  const groups = new Map<string, ReportedMessage[]>();
  for (const message of messages) {
    const { name, fate, change, looks } = message;
    // Addresses of destinations are of several lengths; what matters of a weight is by how much it is another.
    const by = (change?.weight?.after ?? 0) - (change?.weight?.before ?? 0);
    const key = JSON.stringify([name, fate, { ...change, weight: by }, looks]);
    groups.set(key, [...(groups.get(key) ?? []), message]);
  }
  return [...groups.values()].flatMap((list, index) => {
    const [message] = list;
    return message === undefined ? [] : [{ title: groupTitle(list), id: `change-${index + 1}`, message }];
  });
}

/** `may-newsletter for members and archive` */
function groupTitle(list: readonly ReportedMessage[]): string {
  const distinct = (values: readonly (string | null)[]): string[] => [
    ...new Set(values.filter((value) => value !== null)),
  ];
  const editions = distinct(list.map(({ edition }) => edition));
  const destinations = distinct(list.map(({ destination }) => destination));
  return [
    list[0]?.name ?? '',
    ...(editions.length === 0 ? [] : [`(${editions.join(', ')})`]),
    ...(destinations.length === 0 ? [] : [`for ${destinations.join(' and ')}`]),
  ].join(' ');
}

function names(messages: readonly ReportedMessage[]): string[] {
  return [...new Set(messages.map(({ name }) => name))];
}

function contentsRow({ title, id, message }: Group): string {
  return `<li><a href="#${id}">${escapeHtml(title)}</a><span class="faint">${escapeHtml(describeMessage(message))}</span></li>`;
}

function section({ title, id, message }: Group): string {
  const { change, pictures } = message;
  const shown = pictures.map(look).join('');
  return `<section id="${id}"><h2>${escapeHtml(title)}</h2><p class="faint">${escapeHtml(describeMessage(message))}</p>${change === null ? '' : lists(change)}${shown}</section>`;
}

function lists({ words, links, tags, pictures, findings }: MessageChange): string {
  const named: readonly (readonly [string, ListChange | null])[] = [
    ['Words', words],
    ['Links', links],
    ['Merge tags', tags],
    ['Pictures', pictures],
    ['Findings', findings],
  ];
  return named
    .map(([name, list]) => {
      if (list === null) return '';
      const item = (kind: string, sign: string) => (text: string) =>
        `<li class="${kind}">${sign} ${escapeHtml(text)}</li>`;
      const lines = [...list.removed.map(item('gone', '−')), ...list.added.map(item('came', '+'))];
      return `<h3>${name}</h3><ul class="lines">${lines.join('')}</ul>`;
    })
    .join('');
}

function look({ view, share, before, after, difference }: LookPictures): string {
  const figure = (caption: string, path: string): string =>
    `<figure><figcaption>${caption}</figcaption><a href="${escapeHtml(path)}"><img src="${escapeHtml(path)}" alt="${escapeHtml(`${view}, ${caption}`)}" loading="lazy"></a></figure>`;
  const pictures = [figure('before', before), figure('after', after), figure('what differs', difference)];
  return `<h3>${escapeHtml(view)}: ${share === 0 ? 'the same' : `${percent(share)} of the pixels differ`}</h3><div class="looks">${pictures.join('')}</div>`;
}

/** `branch-notice/mill-yard for members` */
export function titleOf({ name, edition, destination }: DescribedMessage): string {
  return `${name}${edition === null ? '' : `/${edition}`}${destination === null ? '' : ` for ${destination}`}`;
}
