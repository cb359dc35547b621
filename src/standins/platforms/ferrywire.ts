import { answer, missingTags, pageOf, type Platform, type PlatformAnswer, type PlatformRequest } from './platform.js';
import type { StoredTemplate } from './platform-state.js';
import { field } from './received-body.js';

/** What each token may do. */
const tokens: ReadonlyMap<string, readonly string[]> = new Map([
  ['ferrywire-token-for-trying', ['templates:read', 'templates:write']],
  ['ferrywire-token-for-reading', ['templates:read']],
]);

const PAGE_SIZE = 10;

const error = (status: number, sentence: string): PlatformAnswer => answer(status, { errors: [{ detail: sentence }] });

const needed = [
  { tag: '[= LeaveLink ]', written: /\[=\s*LeaveLink\s*\]/, what: 'a link to leave' },
  { tag: '[= Org.Address ]', written: /\[=\s*Org\.Address\s*\]/, what: 'the address of the sender' },
];

function told({ id, name, subject, html, text, details }: StoredTemplate, address: string): object {
  return {
    id: `fw-${id}`,
    title: name,
    subject,
    markup: html,
    plain: text,
    ...details,
    url: `${address}/stored/${id}`,
  };
}

/** Its own numbers begin with two letters. */
function numberOf(request: PlatformRequest): string {
  return (request.params['id'] ?? '').replace(/^fw-/, '');
}

function store({ body, state, now, address }: PlatformRequest, id: string | null): PlatformAnswer {
  const title = field(body, 'title').trim();
  const markup = field(body, 'markup');
  if (title === '' || markup === '') return error(422, 'A template needs a title and markup.');
  const missing = missingTags(markup, needed);
  if (missing !== null) return error(422, missing);
  if (/\bsrc="(?!https?:|data:|\[)/i.test(markup))
    return error(422, 'Pictures have to be on the web already: their addresses must begin with https://.');
  const links = body.fields.get('tracked_links') ?? [];
  const stored = state.put(
    {
      id: id ?? state.newId(),
      name: title,
      subject: field(body, 'subject'),
      html: markup,
      text: field(body, 'plain'),
      css: '',
      folder: null,
      details: { preview_line: field(body, 'preview_line'), tracked_links: links },
      pictures: {},
    },
    now,
  );
  return answer(id === null ? 201 : 200, told(stored, address));
}

/** Ferrywire: one page of HTML in a form, pictures from elsewhere, tokens with scopes, names as often as one likes. */
export const ferrywire: Platform = {
  name: 'ferrywire',
  title: 'Ferrywire (simulated)',
  habit: 'Takes one page of HTML whose pictures lie elsewhere, and a list of the links that it tracks.',
  colour: '#1f4e79',
  open: [],
  error,
  credentials: { token: 'ferrywire-token-for-trying' },
  sent: ({ html }) => html,
  refusal: ({ headers }, isWrite) => {
    const scopes = tokens.get((headers['authorization'] ?? '').replace(/^Bearer /, ''));
    if (scopes === undefined) return error(401, 'This token is not known, or has run out.');
    const scope = isWrite ? 'templates:write' : 'templates:read';
    return scopes.includes(scope) ? null : error(403, `This token lacks the scope ${scope}.`);
  },
  routes: {
    'GET /api/templates': ({ query, state, address }) => {
      const words = (query.get('title') ?? '').toLowerCase();
      const after = Number(query.get('after') ?? '0') || 0;
      const found = state.templates.filter(({ name }) => name.toLowerCase().includes(words));
      const { items, next } = pageOf(found, after, PAGE_SIZE);
      return answer(200, { data: items.map((template) => told(template, address)), paging: { after: next } });
    },
    'POST /api/templates': (request) => store(request, null),
    'GET /api/templates/{id}': (request) => {
      const template = request.state.template(numberOf(request));
      return template === null
        ? error(404, 'There is no such template.')
        : answer(200, told(template, request.address));
    },
    'POST /api/templates/{id}': (request) =>
      request.state.template(numberOf(request)) === null
        ? error(404, 'There is no such template.')
        : store(request, numberOf(request)),
  },
};
