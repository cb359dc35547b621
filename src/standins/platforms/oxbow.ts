import { answer, missingTags, type Platform, type PlatformAnswer, type PlatformRequest } from './platform.js';
import { pictureAnswer } from './platform-pages.js';
import type { StoredTemplate } from './platform-state.js';
import { field, jsonText } from './received-body.js';

const CLIENT = 'alder-lane-library';
const SECRET = 'oxbow-secret-for-trying';
const LOGIN = `Basic ${Buffer.from(`${CLIENT}:${SECRET}`).toString('base64')}`;

/** Tokens hold this long, in seconds: short enough that a long push renews one. */
const TOKEN_SECONDS = 20;

const error = (status: number, sentence: string): PlatformAnswer =>
  answer(status, { error: status === 401 ? 'invalid_token' : 'refused', error_description: sentence });

const needed = [
  { tag: '<ox:link to="leave"/>', written: /<ox:link\s+to=["']leave["']\s*\/>/, what: 'a link to leave' },
  {
    tag: '<ox:sender what="address"/>',
    written: /<ox:sender\s+what=["']address["']\s*\/>/,
    what: 'the address of the sender',
  },
];

/** A token says until when it holds, and for what. */
function tokenFor(scope: string, now: number): string {
  return Buffer.from(`${now + TOKEN_SECONDS * 1000} ${scope} ${SECRET.length}`).toString('base64url');
}

function scopeOf(token: string, now: number): string | null {
  const [until, scope = ''] = Buffer.from(token, 'base64url').toString('utf8').split(' ');
  return Number(until) > now ? scope : null;
}

function told({ id, name, subject, html, text, folder, details, version }: StoredTemplate, address: string): object {
  return { id, name, folder, subject, html, text, ...details, version, links: { look: `${address}/stored/${id}` } };
}

function store({ body, state, now, address }: PlatformRequest, id: string | null): PlatformAnswer {
  const name = jsonText(body, 'name').trim();
  const html = jsonText(body, 'html');
  const folder = jsonText(body, 'folder');
  if (name === '' || jsonText(body, 'subject') === '') return error(422, 'A template needs a name and a subject.');
  if (!state.folders.some((known) => known.id === folder)) return error(422, `There is no folder ${folder}.`);
  if (state.templates.some((template) => template.name === name && template.id !== id))
    return error(409, `There is a template called "${name}" already.`);
  const missing = missingTags(html, needed);
  if (missing !== null) return error(422, missing);
  const tags = body.json?.['tags'];
  const stored = state.put(
    {
      id: id ?? state.newId(),
      name,
      subject: jsonText(body, 'subject'),
      html,
      text: jsonText(body, 'text'),
      css: '',
      folder,
      details: {
        preheader: jsonText(body, 'preheader'),
        tags: Array.isArray(tags) ? tags : [],
        reference: jsonText(body, 'reference'),
      },
      pictures: {},
    },
    now,
  );
  return answer(id === null ? 201 : 200, told(stored, address));
}

/** Oxbow: sign-in by client credentials, folders, pictures with numbers, subject and preheader within the template. */
export const oxbow: Platform = {
  name: 'oxbow',
  title: 'Oxbow (simulated)',
  habit: 'Keeps templates with their subject in folders; who asks signs in for a short while.',
  colour: '#5b3a7a',
  open: ['POST /sign-in/token', 'GET /shown/{id}'],
  error,
  credentials: { client: CLIENT, secret: SECRET },
  sent: ({ html }) => html,
  refusal: ({ headers, now }) => {
    const scope = scopeOf((headers['authorization'] ?? '').replace(/^Bearer /, ''), now);
    if (scope === null) return error(401, 'The token is not known, or has run out.');
    return scope === 'templates' ? null : error(403, 'The token lacks the scope templates.');
  },
  routes: {
    'POST /sign-in/token': ({ headers, body, now }) => {
      if (headers['authorization'] !== LOGIN)
        return answer(401, { error: 'invalid_client', error_description: 'Client or secret is wrong.' });
      if (field(body, 'grant_type') !== 'client_credentials')
        return answer(400, { error: 'unsupported_grant_type', error_description: 'Only client_credentials.' });
      const token = tokenFor(field(body, 'scope'), now);
      return answer(200, { access_token: token, token_type: 'Bearer', expires_in: TOKEN_SECONDS });
    },
    'GET /shown/{id}': ({ params, state }) => pictureAnswer(params['id'] ?? '', state),
    'GET /pictures': ({ query, state }) =>
      answer(200, {
        items: state.pictures.filter(({ name }) => name === query.get('name')).map(({ id, name }) => ({ id, name })),
      }),
    'POST /pictures': ({ query, body, state }) => {
      const name = query.get('name') ?? '';
      if (name === '' || !body.type.startsWith('image/')) return error(422, 'A picture needs a name and a type.');
      return answer(201, { id: state.addPicture(name, body.type, body.bytes).id });
    },
    'GET /folders': ({ state }) => answer(200, { items: state.folders }),
    'POST /folders': ({ body, state }) => {
      const name = jsonText(body, 'name').trim();
      if (name === '') return error(422, 'A folder needs a name.');
      const known = state.folders.find((folder) => folder.name === name);
      return known === undefined
        ? answer(201, state.addFolder(name))
        : error(409, `There is a folder "${name}" already.`);
    },
    'GET /templates': ({ query, state, address }) =>
      answer(200, {
        items: state.templates
          .filter(({ name }) => name === query.get('name'))
          .map((template) => told(template, address)),
      }),
    'POST /templates': (request) => store(request, null),
    'GET /templates/{id}': ({ params, state, address }) => {
      const template = state.template(params['id'] ?? '');
      return template === null ? error(404, 'There is no such template.') : answer(200, told(template, address));
    },
    'PUT /templates/{id}': (request) =>
      request.state.template(request.params['id'] ?? '') === null
        ? error(404, 'There is no such template.')
        : store(request, request.params['id'] ?? ''),
  },
};
