import { answer, missingTags, type Platform, type PlatformAnswer, type PlatformRequest } from './platform.js';
import { pictureAnswer } from './platform-pages.js';
import type { StoredTemplate } from './platform-state.js';
import { jsonText } from './received-body.js';

const KEY = 'tansy-key-for-trying';

/** No picture may be heavier, in bytes. */
const HEAVIEST = 60 * 1024;

const error = (status: number, sentence: string): PlatformAnswer => answer(status, { reason: sentence });

const needed = [{ tag: '$(leave_url)', written: /\$\(leave_url\)/, what: 'a link to leave' }];

function told({ id, name, subject, html, text, details }: StoredTemplate, address: string): object {
  return {
    page: id,
    label: name,
    title: subject,
    markup: html,
    words: text,
    ...details,
    open: `${address}/stored/${id}`,
  };
}

function store({ body, state, now, address }: PlatformRequest, id: string | null): PlatformAnswer {
  const label = jsonText(body, 'label').trim();
  const markup = jsonText(body, 'markup');
  if (label === '' || markup === '') return error(422, 'A page needs a label and markup.');
  const missing = missingTags(markup, needed);
  if (missing !== null) return error(422, missing);
  const ids = [...markup.matchAll(/class="tansy-edit" id="([^"]+)"/g)].map((match) => match[1] ?? '');
  const twice = ids.find((own, index) => ids.indexOf(own) !== index);
  if (twice !== undefined) return error(422, `Two blocks that may be edited have the id "${twice}".`);
  const stored = state.put(
    {
      id: id ?? state.newId(),
      name: label,
      subject: jsonText(body, 'title'),
      // It keeps no head, whatever is in it.
      html: markup.replace(/<head\b[^]*?<\/head>/i, ''),
      text: jsonText(body, 'words'),
      css: '',
      folder: null,
      details: { blocks: ids, stamp: jsonText(body, 'stamp') },
      pictures: {},
    },
    now,
  );
  return answer(id === null ? 201 : 200, told(stored, address));
}

/** Tansy: pictures in base64, none too heavy; no head; blocks to edit, each with an id of its own. */
export const tansy: Platform = {
  name: 'tansy',
  title: 'Tansy (simulated)',
  habit: 'Strips the head, refuses pictures over 60 KB, and lets people edit the blocks that are marked.',
  colour: '#6b6300',
  open: ['GET /i/{id}'],
  error,
  credentials: { key: KEY },
  sent: ({ html }) => html,
  refusal: ({ headers }) => (headers['authorization'] === `Tansy ${KEY}` ? null : error(401, 'This key is not known.')),
  routes: {
    'GET /i/{id}': ({ params, state }) => pictureAnswer(params['id'] ?? '', state),
    'GET /images/{name}': ({ params, state, address }) => {
      const picture = state.pictures.find(({ name }) => name === params['name']);
      return picture === undefined
        ? error(404, 'There is no such picture.')
        : answer(200, { image: picture.id, name: picture.name, src: `${address}/i/${picture.id}` });
    },
    'POST /images': ({ body, state, address }) => {
      const name = jsonText(body, 'name');
      const bytes = Buffer.from(jsonText(body, 'content'), 'base64');
      if (name === '' || bytes.length === 0) return error(422, 'A picture needs a name and content in base64.');
      if (bytes.length > HEAVIEST)
        return error(
          413,
          `No picture may be heavier than ${HEAVIEST / 1024} KB; ${name} has ${Math.ceil(bytes.length / 1024)} KB.`,
        );
      const { id } = state.addPicture(name, jsonText(body, 'type'), bytes);
      return answer(201, { image: id, name, src: `${address}/i/${id}` });
    },
    'GET /pages': ({ query, state, address }) =>
      answer(200, {
        pages: state.templates
          .filter(({ name }) => name.includes(query.get('label') ?? ''))
          .map((template) => told(template, address)),
      }),
    'POST /pages': (request) => store(request, null),
    'GET /pages/{page}': ({ params, state, address }) => {
      const template = state.template(params['page'] ?? '');
      return template === null ? error(404, 'There is no such page.') : answer(200, told(template, address));
    },
    'PUT /pages/{page}': (request) =>
      request.state.template(request.params['page'] ?? '') === null
        ? error(404, 'There is no such page.')
        : store(request, request.params['page'] ?? ''),
  },
};
