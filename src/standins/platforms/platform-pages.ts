import type { Dialect } from '../../core/dialects/dialect.js';
import { escapeHtml } from '../../core/html/escape.js';
import { filledTemplate, recipients, type RecipientName } from './fill-stored.js';
import { AnswerBytes, answer, type Platform, type PlatformAnswer } from './platform.js';
import type { PlatformState, StoredTemplate } from './platform-state.js';
import { counted, kilobytes } from '../../core/text/amounts.js';

/** What pages are made of. */
interface Shown {
  readonly platform: Platform;
  readonly state: PlatformState;
  readonly dialect: Dialect;
}

/** The pages load nothing but frames of their own; what a template shows may come from anywhere, but runs nothing. */
const OWN_POLICY =
  "default-src 'none'; style-src 'unsafe-inline'; frame-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'";
const TEMPLATE_POLICY =
  "default-src 'none'; img-src * data:; style-src 'unsafe-inline' *; font-src * data:; base-uri 'none'; form-action 'none'; frame-ancestors 'self'; sandbox allow-same-origin";

/** The page at an address of a platform: its templates, one of them, or what a reader gets of it. Null where there is none. */
export function pageAnswer(url: URL, shown: Shown): PlatformAnswer | null {
  if (url.pathname === '/') return htmlAnswer(listPage(shown), OWN_POLICY);
  const match = /^\/stored\/(\d+)(?:\/(shown|text|images\/[^/]+))?$/.exec(url.pathname);
  if (match === null) return null;
  const [, id = '', view = ''] = match;
  const template = shown.state.template(id);
  if (template === null)
    return answer(404, new AnswerBytes('text/plain; charset=utf-8', Buffer.from('There is no such template.\n')));
  const recipient = recipients.find((name) => name === url.searchParams.get('for')) ?? 'ines';
  if (view === '') return htmlAnswer(templatePage(template, recipient, shown), OWN_POLICY);
  if (view === 'shown')
    return htmlAnswer(filledTemplate(shown.platform.sent(template), shown.dialect, recipient), TEMPLATE_POLICY);
  if (view === 'text')
    return answer(
      200,
      new AnswerBytes(
        'text/plain; charset=utf-8',
        Buffer.from(filledTemplate(template.text, shown.dialect, recipient)),
      ),
    );
  return pictureAnswer(template.pictures[decodeURIComponent(view)] ?? '', shown.state);
}

/** The bytes of a picture, by its number. */
export function pictureAnswer(id: string, state: PlatformState): PlatformAnswer {
  const picture = state.pictures.find((kept) => kept.id === id);
  const bytes = picture === undefined ? null : state.pictureBytes(id);
  return picture === undefined || bytes === null
    ? answer(404, null)
    : answer(200, new AnswerBytes(picture.type, bytes));
}

function htmlAnswer(html: string, policy: string): PlatformAnswer {
  return {
    ...answer(200, new AnswerBytes('text/html; charset=utf-8', Buffer.from(html))),
    headers: { 'content-security-policy': policy },
  };
}

function listPage({ platform, state, dialect }: Shown): string {
  const hasFolders = state.folders.length > 0;
  const folderCell = (text: string, tag: string): string =>
    hasFolders ? `<${tag} class="faint">${escapeHtml(text)}</${tag}>` : '';
  const rows = [...state.templates]
    .sort((a, b) => (a.name < b.name ? -1 : 1))
    .map(
      (template) => `<tr><td><a href="/stored/${template.id}">${escapeHtml(template.name)}</a></td>
<td>${filledLine(template.subject, dialect, 'ines')}</td>${folderCell(folderOf(template, state), 'td')}
<td class="number">${kilobytes(Buffer.byteLength(template.html))}</td><td class="number">${template.version}</td><td class="faint">${timeOf(template.changed)}</td></tr>`,
    );
  const content =
    rows.length === 0
      ? '<p>There are no templates yet.</p>'
      : `<table><thead><tr><th>Template</th><th>Subject</th>${folderCell('Folder', 'th')}<th class="number">HTML</th><th class="number">Version</th><th>Changed</th></tr></thead><tbody>${rows.join('\n')}</tbody></table>`;
  const counts = `${counted(rows.length, 'template')}, ${counted(state.pictures.length, 'picture')}`;
  return whole(
    platform,
    'Templates',
    `<p class="faint">${escapeHtml(platform.habit)} Its interface: <a href="/openapi.yaml">openapi.yaml</a>.</p>${content}<p class="faint">${counts}</p>`,
  );
}

/** A line as a recipient reads it, as HTML. */
function filledLine(text: string, dialect: Dialect, recipient: RecipientName): string {
  return filledTemplate(escapeHtml(text), dialect, recipient);
}

/** A name of an interface, as people write it. */
function label(name: string): string {
  return `${name.charAt(0).toUpperCase()}${name.slice(1)}`.replaceAll('_', ' ');
}

function templatePage(template: StoredTemplate, recipient: RecipientName, { platform, state, dialect }: Shown): string {
  const at = (view: string): string => `/stored/${template.id}/${view}?for=${recipient}`;
  const facts: readonly (readonly [string, string])[] = [
    ['Folder', folderOf(template, state)],
    ...Object.entries(template.details).map(([name, value]) => [label(name), plain(value)] as const),
    ['Changed', `${timeOf(template.changed)}, version ${template.version}`],
  ];
  const list = facts
    .filter(([, value]) => value !== '')
    .map(([name, value]) => `<dt>${escapeHtml(name)}</dt><dd>${escapeHtml(value)}</dd>`);
  const choice = recipients.map((name) =>
    name === recipient ? `<b>${name}</b>` : `<a href="/stored/${template.id}?for=${name}">${name}</a>`,
  );
  return whole(
    platform,
    template.name,
    `<dl><dt>Subject</dt><dd>${filledLine(template.subject, dialect, recipient)}</dd>${list.join('')}</dl>
<p>As ${choice.join(' or ')} gets it. <a href="${at('text')}">Its plain text</a></p>
<div class="pair"><div><h2>Desktop</h2><iframe title="At a desk" src="${at('shown')}" style="width:680px"></iframe></div>
<div><h2>Phone</h2><iframe title="On a phone" src="${at('shown')}" style="width:390px"></iframe></div></div>`,
  );
}

function folderOf({ folder }: StoredTemplate, state: PlatformState): string {
  return state.folders.find(({ id }) => id === folder)?.name ?? '';
}

function plain(value: unknown): string {
  if (typeof value === 'string') return value.length > 300 ? `${value.slice(0, 300)}…` : value;
  if (Array.isArray(value))
    return value.map((entry) => (typeof entry === 'string' ? entry : JSON.stringify(entry))).join(', ');
  return value === null || value === undefined ? '' : JSON.stringify(value);
}

function timeOf(time: number): string {
  return new Date(time).toISOString().slice(0, 19).replace('T', ' ');
}

function whole({ title, colour }: Platform, heading: string, body: string): string {
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title>${escapeHtml(heading)} · ${escapeHtml(title)}</title>
<style>
:root { color-scheme: light; --ink: #24231f; --faint: #6c6a62; --line: #ddd8cb; --ground: #fbfaf6; --own: ${colour} }
* { box-sizing: border-box }
body { margin: 0; font: 15px/1.5 Arial, "Liberation Sans", sans-serif; color: var(--ink); background: var(--ground) }
header { padding: 14px 24px; color: #fff; background: var(--own) }
header a { color: #fff; font-weight: bold; text-decoration: none }
main { padding: 16px 24px; max-width: 1240px }
h1 { margin: 0 0 12px; font-size: 22px; overflow-wrap: anywhere }
h2 { margin: 0 0 8px; font-size: 15px }
a { color: var(--own) }
table { border-collapse: collapse; width: 100%; background: #fff; border: 1px solid var(--line) }
th, td { text-align: left; padding: 8px 12px; border-bottom: 1px solid var(--line); vertical-align: top; overflow-wrap: anywhere }
th { font-weight: normal; color: var(--faint); font-size: 13px }
.number { text-align: right; white-space: nowrap }
.faint { color: var(--faint) }
dl { display: grid; grid-template-columns: max-content 1fr; gap: 2px 16px; margin: 0 }
dt { color: var(--faint) } dd { margin: 0; overflow-wrap: anywhere }
.pair { display: flex; flex-wrap: wrap; gap: 24px }
iframe { max-width: 100%; height: 760px; border: 1px solid var(--line); background: #fff }
</style></head>
<body><header><a href="/">${escapeHtml(title)}</a></header><main><h1>${escapeHtml(heading)}</h1>${body}</main></body></html>
`;
}
