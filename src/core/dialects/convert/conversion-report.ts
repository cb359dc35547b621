import { escapeHtml } from '../../html/escape.js';
import type { SourceText } from '../../text/source-text.js';
import { conversionVerdicts, type ConvertedTag } from './convert-tags.js';
import type { ConvertedPiece } from './place-tags.js';
import { counted } from '../../text/amounts.js';

/** One converted file, for a report. */
export interface ConvertedFile {
  readonly file: string;
  readonly source: SourceText;
  /** Null where the conversion was refused. */
  readonly text: string | null;
  readonly tags: readonly ConvertedTag[];
  readonly pieces: readonly ConvertedPiece[];
  /** The neutral names of the recipient's fields that it uses. */
  readonly fields: readonly string[];
}

/** What became of each tag, as JSON: `{ tags: [{ file, line, column, from, to, verdict, message }] }`. */
export function conversionJson(files: readonly ConvertedFile[]): string {
  const tags = files.flatMap(({ file, source, tags: own }) =>
    own.map(({ span, from, to, verdict, message }) => ({
      file,
      ...source.lineColumn(span.start),
      from,
      to,
      verdict,
      message,
    })),
  );
  return `${JSON.stringify({ tags }, null, 2)}\n`;
}

/** "7 tags, 1 region: 6 exact, 2 rewritten". */
export function verdictCounts(tags: readonly ConvertedTag[]): string {
  const counts = conversionVerdicts
    .map((verdict) => [verdict, tags.filter((tag) => tag.verdict === verdict).length] as const)
    .filter(([, count]) => count > 0)
    .map(([verdict, count]) => `${count} ${verdict}`);
  const kinds = (['tag', 'region', 'block'] as const)
    .map((kind) => [kind, tags.filter((tag) => tag.kind === kind).length] as const)
    .filter(([kind, count]) => count > 0 || kind === 'tag')
    .map(([kind, count]) => counted(count, kind));
  const total = kinds.join(', ');
  return counts.length === 0 ? total : `${total}: ${counts.join(', ')}`;
}

const style = `body{margin:0;padding:32px;font:15px/1.5 system-ui,sans-serif;color:#1d2320;background:#f6f5f1}
h1{font-size:24px;margin:0 0 4px}h2{font-size:18px;margin:40px 0 4px}p{margin:0 0 16px;color:#4b554f}
table{border-collapse:collapse;table-layout:fixed;width:100%;background:#fff}th,td{text-align:left;vertical-align:top;padding:6px 12px;border-bottom:1px solid #dfe2dc}
th{font-size:13px;color:#4b554f}td.at{white-space:nowrap;font-variant-numeric:tabular-nums}
code,pre{font:13px/1.5 ui-monospace,monospace;overflow-wrap:anywhere;white-space:pre-wrap}
.sides{display:grid;grid-template-columns:1fr 1fr;gap:16px;margin-top:16px}.sides h3{font-size:13px;margin:0 0 4px;color:#4b554f}
pre{margin:0;padding:16px;background:#fff;border:1px solid #dfe2dc}
mark,.verdict{border-radius:3px;padding:1px 4px;color:inherit}
.good{background:#dcefe0}.fair{background:#fbeec2}.bad{background:#f8d5cf}
mark:target{outline:2px solid #1d2320}a{color:inherit}`;

/** A page that shows each file before and after, side by side, and what became of each tag. */
export function conversionPage(files: readonly ConvertedFile[], from: string, to: string): string {
  const all = files.flatMap(({ tags }) => tags);
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width,initial-scale=1">
<title>Conversion from ${escapeHtml(from)} to ${escapeHtml(to)}</title>
<style>${style}</style>
</head>
<body>
<h1>From ${escapeHtml(from)} to ${escapeHtml(to)}</h1>
${files.length > 1 ? `<p>${escapeHtml(verdictCounts(all))}</p>\n` : ''}${files.map((file, index) => fileSection(file, index)).join('\n')}
</body>
</html>
`;
}

function fileSection({ file, source, text, tags, pieces }: ConvertedFile, number: number): string {
  const id = (offset: number): string => `t${number}-${offset}`;
  const rows = tags.map(({ span, from, to, verdict, message }) => {
    const { line, column } = source.lineColumn(span.start);
    const place = `<a href="#${id(span.start)}">${line}:${column}</a>`;
    const result = to === '' ? '<i>nothing</i>' : `<code>${escapeHtml(shortened(to))}</code>`;
    return `<tr><td class="at">${place}</td><td><code>${escapeHtml(shortened(from))}</code></td><td>${result}</td><td><span class="verdict ${gravity(verdict)}">${verdict}</span></td><td>${escapeHtml(message)}</td></tr>`;
  });
  const state = text === null ? 'Refused: nothing was written. The right side shows what there would be.' : '';
  return `<h2>${escapeHtml(file)}</h2>
<p>${escapeHtml(verdictCounts(tags))}. ${state}</p>
<table>
<tr><th style="width:64px">Place</th><th>Before</th><th>After</th><th style="width:88px">Verdict</th><th style="width:24%">Note</th></tr>
${rows.join('\n')}
</table>
<div class="sides">
<div><h3>Before</h3><pre>${before(source.text, tags, id)}</pre></div>
<div><h3>After</h3><pre>${after(pieces, tags)}</pre></div>
</div>`;
}

function before(text: string, tags: readonly ConvertedTag[], id: (offset: number) => string): string {
  let position = 0;
  const parts: string[] = [];
  for (const { span, verdict } of tags) {
    if (span.start < position) continue;
    parts.push(escapeHtml(text.slice(position, span.start)));
    parts.push(
      `<mark id="${id(span.start)}" class="${gravity(verdict)}">${escapeHtml(text.slice(span.start, span.end))}</mark>`,
    );
    position = span.end;
  }
  return parts.join('') + escapeHtml(text.slice(position));
}

function after(pieces: readonly ConvertedPiece[], tags: readonly ConvertedTag[]): string {
  return pieces
    .map(({ text, from }) => {
      const tag = from === null ? undefined : tags.find(({ span }) => span.start === from.start);
      return tag === undefined ? escapeHtml(text) : `<mark class="${gravity(tag.verdict)}">${escapeHtml(text)}</mark>`;
    })
    .join('');
}

function gravity(verdict: ConvertedTag['verdict']): 'good' | 'fair' | 'bad' {
  if (verdict === 'exact' || verdict === 'rewritten') return 'good';
  return verdict === 'loss' || verdict === 'unknown' || verdict === 'foreign' ? 'bad' : 'fair';
}

function shortened(text: string): string {
  return text.length > 200 ? `${text.slice(0, 120)} … ${text.slice(-60)}` : text;
}
