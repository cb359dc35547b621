import { answer, missingTags, type Platform, type PlatformAnswer, type PlatformRequest } from './platform.js';
import type { StoredTemplate } from './platform-state.js';
import { field } from './received-body.js';

const TOKEN = 'gannetry-token-for-trying';

const error = (status: number, sentence: string): PlatformAnswer => answer(status, { faults: { all: [sentence] } });

const needed = [
  { tag: '#{mail:leave}', written: /#\{mail:leave\}/, what: 'a link to leave' },
  { tag: '#{house:address}', written: /#\{house:address\}/, what: 'the address of the house' },
];

const BADGE = '<p style="text-align:center"><a href="https://sent-with.gannetry.example/">Sent with Gannetry</a></p>';

/** Exported templates carry its badge, at the end of the body. */
function withBadge(html: string): string {
  const at = html.search(/<\/body>/i);
  return at < 0 ? `${html}${BADGE}` : `${html.slice(0, at)}${BADGE}${html.slice(at)}`;
}

function told({ id, name, subject, html, text, details }: StoredTemplate, address: string): object {
  return {
    draft: { id: Number(id), name, subject, html: withBadge(html), text, ...details },
    view: `${address}/stored/${id}`,
  };
}

function store({ body, state, now, address }: PlatformRequest, id: string | null): PlatformAnswer {
  const name = field(body, 'name').trim();
  const html = field(body, 'html');
  if (name === '' || html === '') return error(422, 'A draft needs a name and HTML.');
  if (state.templates.some((template) => template.name === name && template.id !== id))
    return error(409, `There is a draft called "${name}" already.`);
  const missing = missingTags(html, needed);
  if (missing !== null) return error(422, missing);
  if (/@font-face|@import|<link\b[^>]*stylesheet/i.test(html))
    return error(422, 'Fonts from the web are not allowed here.');
  const sent = new Map((body.files.get('pictures') ?? []).map((file) => [`images/${file.name}`, file]));
  const lost = [...html.matchAll(/\bsrc="(images\/[^"]+)"/g)]
    .map((match) => match[1] ?? '')
    .find((path) => !sent.has(path));
  if (lost !== undefined) return error(422, `The picture ${lost} was not sent along.`);
  const pictures = [...sent].map(([path, file]): [string, string] => {
    const known = state.pictures.find((picture) => picture.name === path);
    return [path, (known ?? state.addPicture(path, file.type, file.bytes)).id];
  });
  const stored = state.put(
    {
      id: id ?? state.newId(),
      name,
      subject: field(body, 'subject'),
      html,
      text: field(body, 'text'),
      css: '',
      folder: null,
      details: { editable: field(body, 'editable'), own_number: field(body, 'own_number') },
      pictures: Object.fromEntries(pictures),
    },
    now,
  );
  return answer(id === null ? 201 : 200, told(stored, address));
}

/** Gannetry: page and pictures as the parts of one form, no fonts from the web, a badge on what it gives back. */
export const gannetry: Platform = {
  name: 'gannetry',
  title: 'Gannetry (simulated)',
  habit:
    'Takes a page and its pictures in one form, refuses fonts from the web, and puts its badge on what it exports.',
  colour: '#8a2d3b',
  open: [],
  error,
  credentials: { token: TOKEN },
  sent: ({ html }) => withBadge(html),
  refusal: ({ headers }) => (headers['gannetry-token'] === TOKEN ? null : error(401, 'This token is not known.')),
  routes: {
    'GET /drafts': ({ query, state, address }) =>
      answer(200, {
        drafts: state.templates
          .filter(({ name }) => name === (query.get('name') ?? name))
          .map(({ id, name, details }) => ({
            id: Number(id),
            name,
            own_number: details['own_number'],
            view: `${address}/stored/${id}`,
          })),
      }),
    'POST /drafts': (request) => store(request, null),
    'GET /drafts/{id}/export': ({ params, state, address }) => {
      const template = state.template(params['id'] ?? '');
      return template === null ? error(404, 'There is no such draft.') : answer(200, told(template, address));
    },
    'POST /drafts/{id}': (request) =>
      request.state.template(request.params['id'] ?? '') === null
        ? error(404, 'There is no such draft.')
        : store(request, request.params['id'] ?? ''),
  },
};
