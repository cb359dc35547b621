import { answer, missingTags, pageOf, type Platform, type PlatformAnswer, type PlatformRequest } from './platform.js';
import type { StoredTemplate } from './platform-state.js';
import { field, unzipped } from './received-body.js';

const ACCOUNT = 'alder-lane';
const KEY = 'bellmoor-key-for-trying';
const PAGE_SIZE = 20;

const error = (status: number, says: string): PlatformAnswer => answer(status, { problem: { says } });

const needed = [
  { tag: '~~LINK_LEAVE~~', written: /~~\s*LINK_LEAVE\s*~~/, what: 'an unsubscribe link' },
  { tag: '~~SENDER_POSTAL~~', written: /~~\s*SENDER_POSTAL\s*~~/, what: 'a postal address' },
];

function told({ id, name, subject, html, text, details, version }: StoredTemplate, address: string): object {
  return { number: Number(id), name, subject, ...details, html, text, version, page: `${address}/stored/${id}` };
}

/** Takes a zip, and makes a mailing of it, in place of the one with a number. */
function store(request: PlatformRequest, id: string | null): PlatformAnswer {
  const { body, state, now, address } = request;
  const [archive] = body.files.get('archive') ?? [];
  const name = field(body, 'name').trim();
  if (name === '') return error(422, 'A mailing needs a name.');
  if (state.templates.some((template) => template.name === name && template.id !== id))
    return error(409, `There is a mailing called "${name}" already.`);
  const files = archive === undefined ? null : unzipped(archive.bytes);
  const page = files?.get('index.html');
  if (files === null || page === undefined) return error(422, 'The archive must be a zip with an index.html in it.');
  const html = Buffer.from(page).toString('utf8');
  const missing = missingTags(html, needed);
  if (missing !== null) return error(422, missing);
  const wanted = [...html.matchAll(/\bsrc="(images\/[^"]+)"/g)].map((match) => match[1] ?? '');
  const lost = wanted.find((path) => !files.has(path));
  if (lost !== undefined) return error(422, `The archive lacks ${lost}, which index.html shows.`);
  const pictures = [...files].filter(([path]) => path.startsWith('images/'));
  const kept = pictures.map(([path, bytes]): [string, string] => {
    const known = state.pictures.find((picture) => picture.name === path);
    return [path, (known ?? state.addPicture(path, typeOf(path), bytes)).id];
  });
  const stored = state.put(
    {
      id: id ?? state.newId(),
      name,
      subject: field(body, 'subject'),
      html,
      text: Buffer.from(files.get('index.txt') ?? []).toString('utf8'),
      css: '',
      folder: null,
      details: {
        teaser: field(body, 'teaser'),
        sender: field(body, 'sender'),
        answers_to: field(body, 'answers_to'),
        remark: field(body, 'remark'),
      },
      pictures: Object.fromEntries(kept),
    },
    now,
  );
  return answer(id === null ? 201 : 200, { mailing: told(stored, address) });
}

function typeOf(path: string): string {
  const ending = path.slice(path.lastIndexOf('.') + 1).toLowerCase();
  return `image/${ending === 'jpg' ? 'jpeg' : ending}`;
}

/** Bellmoor: everything in a zip, a key beside the number of an account, names that are there once. */
export const bellmoor: Platform = {
  name: 'bellmoor',
  title: 'Bellmoor (simulated)',
  habit: 'Imports a zip of a page and its pictures; refuses what has no unsubscribe link or no postal address.',
  colour: '#2f5d50',
  open: [],
  error,
  credentials: { account: ACCOUNT, key: KEY },
  sent: ({ html }) => html,
  refusal: ({ headers, params }) => {
    if (headers['x-bellmoor-key'] !== KEY) return error(401, 'This key is not known.');
    return params['account'] === ACCOUNT ? null : error(403, 'This key is for another account.');
  },
  routes: {
    'GET /v3/accounts/{account}/mailings': ({ query, state, address }) => {
      const words = query.get('name') ?? '';
      const from = Number(query.get('from') ?? '0') || 0;
      const found = state.templates.filter(({ name }) => name.includes(words));
      const { items, next } = pageOf(found, from, PAGE_SIZE);
      const more = `${address}/v3/accounts/${ACCOUNT}/mailings?name=${encodeURIComponent(words)}&from=${next ?? 0}`;
      return answer(200, {
        mailings: items.map((template) => told(template, address)),
        more: next === null ? null : more,
      });
    },
    'POST /v3/accounts/{account}/mailings': (request) => store(request, null),
    'GET /v3/accounts/{account}/mailings/{number}': ({ params, state, address }) => {
      const template = state.template(params['number'] ?? '');
      return template === null
        ? error(404, 'There is no such mailing.')
        : answer(200, { mailing: told(template, address) });
    },
    'PUT /v3/accounts/{account}/mailings/{number}': (request) =>
      request.state.template(request.params['number'] ?? '') === null
        ? error(404, 'There is no such mailing.')
        : store(request, request.params['number'] ?? ''),
  },
};
