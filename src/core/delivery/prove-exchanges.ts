import type { Dialect } from '../dialects/dialect.js';
import { stepOf, type PushApi, type RecordedExchange, type SendPattern } from '../dialects/push-api.js';
import { filledRequest, type FilledRequest, type RequestBody } from './fill-request.js';
import { itemsOf, refusalOf, takenOf, type Taken } from './read-answer.js';
import { textOf, type RequestValues, type SentFile } from './values.js';

/** A recorded exchange that a description would make otherwise. */
export interface FailedExchange {
  /** Its number in the file, from 0. */
  readonly index: number;
  readonly part: 'request' | 'answer';
  /** What is otherwise, in words. */
  readonly detail: string;
}

/** The recorded exchanges of a dialect that its description of the interface does not bear out. */
export function failedExchanges({ push, exchanges }: Pick<Dialect, 'push' | 'exchanges'>): FailedExchange[] {
  return exchanges.flatMap((recorded, index): FailedExchange[] => {
    if (push === null) return [{ index, part: 'request', detail: 'there is no push' }];
    const request = requestDifference(push, recorded);
    if (request !== null) return [{ index, part: 'request', detail: request }];
    const answer = answerDifference(push, recorded);
    return answer === null ? [] : [{ index, part: 'answer', detail: answer }];
  });
}

function requestDifference(api: PushApi, { step, values: given, request }: RecordedExchange): string | null {
  const exchange = stepOf(api, step);
  if (exchange === null) return `it makes no request called ${step}`;
  const values: RequestValues = new Map(Object.entries(given));
  const file = (name: SendPattern): SentFile => ({ name: textOf(name), type: '', bytes: new Uint8Array() });
  const pictures = values.get('pictures') ?? [];
  const filled = filledRequest(api, exchange, values, {
    file: values.has('file') ? file(values.get('file') ?? null) : null,
    pictures: Array.isArray(pictures) ? (pictures as readonly SendPattern[]).map(file) : [],
  });
  const line = `${filled.method} ${filled.path}`;
  if (line !== request.line) return line;
  const headers = lowerCased(filled.headers);
  const recorded = lowerCased(request.headers);
  for (const name of new Set([...Object.keys(headers), ...Object.keys(recorded)]))
    if (headers[name] !== recorded[name]) return `${name}: ${headers[name] ?? 'not sent'}`;
  const body = bodyAsRecorded(filled);
  return sameJson(body, request.body) ? null : JSON.stringify(body);
}

/** The content of a request as a recording has it: JSON; the fields of a form, with the names of files; the name of a file. */
function bodyAsRecorded({ body }: { readonly body: FilledRequest['body'] }): SendPattern {
  switch (body.kind) {
    case 'none':
      return null;
    case 'json':
      return body.value;
    case 'bytes':
      return body.file.name;
    default:
      return grouped(body);
  }
}

function grouped(body: Extract<RequestBody, { readonly kind: 'form' | 'multipart' }>): SendPattern {
  const files = body.kind === 'multipart' ? body.files.map(([name, file]) => [name, file.name] as const) : [];
  const fields: Record<string, string | string[]> = {};
  for (const [name, value] of [...body.fields, ...files]) {
    const before = fields[name];
    fields[name] = before === undefined ? value : [...[before].flat(), value];
  }
  return fields;
}

function answerDifference(api: PushApi, { step, answer, takes, says }: RecordedExchange): string | null {
  if (says !== null || answer.status >= 400) {
    const said = refusalOf(answer.body, api.errorMessage);
    return said === says ? null : (said ?? 'no sentence');
  }
  const exchange = stepOf(api, step);
  if (takes === null || exchange === null) return null;
  const { taken, problem } = firstTaken();
  if (taken === null) return problem;
  const found = Object.fromEntries(taken);
  return sameJson(found, takes) ? null : JSON.stringify(found);

  function firstTaken(): { taken: Taken | null; problem: string } {
    if (exchange === null) return { taken: null, problem: '' };
    if (exchange.items === null) {
      const whole = takenOf(answer.body, exchange, []);
      return { taken: whole.taken, problem: whole.problem ?? '' };
    }
    const { items, problem } = itemsOf(answer.body, exchange, []);
    return { taken: items === null ? null : (items[0] ?? new Map<string, string>()), problem: problem ?? '' };
  }
}

function lowerCased(headers: Readonly<Record<string, string>>): Record<string, string> {
  return Object.fromEntries(Object.entries(headers).map(([name, value]) => [name.toLowerCase(), value]));
}

function sameJson(a: unknown, b: unknown): boolean {
  return canonicalJson(a) === canonicalJson(b);
}

/** JSON with the keys of groups in order, so that equal values are equal texts. */
export function canonicalJson(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(canonicalJson).join(',')}]`;
  if (typeof value !== 'object' || value === null) return JSON.stringify(value) ?? 'null';
  const entries = Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1));
  return `{${entries.map(([key, entry]) => `${JSON.stringify(key)}:${canonicalJson(entry)}`).join(',')}}`;
}
