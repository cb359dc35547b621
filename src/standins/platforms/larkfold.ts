import { answer, type Platform, type PlatformAnswer, type PlatformRequest } from './platform.js';
import { pictureAnswer } from './platform-pages.js';
import type { KeptPicture, StoredTemplate } from './platform-state.js';
import { jsonText } from './received-body.js';

const USER = 'desk@alderlane.example';
const PASSWORD = 'larkfold-password-for-trying';
const LOGIN = `Basic ${Buffer.from(`${USER}:${PASSWORD}`).toString('base64')}`;

const error = (status: number, sentence: string): PlatformAnswer => answer(status, { message: sentence });

const LEAVE = '(:leave-address:)';
const OWN_FOOTER = `<p style="font:12px Arial,sans-serif;color:#666;text-align:center">You get this since you are on a list. <a href="${LEAVE}">Leave it</a></p>`;

function told({ id, name, subject, html, css, text, folder, details }: StoredTemplate, address: string): object {
  return {
    id,
    title: name,
    subject,
    category: folder,
    style_sheet: css,
    body: html,
    text,
    ...details,
    at: `${address}/stored/${id}`,
  };
}

function detail(template: StoredTemplate | null, name: string): string {
  const value = template?.details[name];
  return typeof value === 'string' ? value : '';
}

function store({ body, state, now, address }: PlatformRequest, id: string | null): PlatformAnswer {
  const before = id === null ? null : state.template(id);
  const given = (name: string, else_: string): string =>
    body.json !== null && name in body.json ? jsonText(body, name) : else_;
  const title = given('title', before?.name ?? '').trim();
  const html = given('body', before?.html ?? '');
  const category = given('category', before?.folder ?? '');
  if (body.json === null) return error(400, 'This is no JSON.');
  if (title === '' || html === '') return error(422, 'A letter needs a title and a body.');
  if (/<(?:head|style|html)\b/i.test(html.replace(/<!--[^]*?-->/g, '')))
    return error(422, 'The body may hold no head and no style element: the style sheet goes apart.');
  if (!state.folders.some((folder) => folder.id === category)) return error(422, `There is no category ${category}.`);
  const stored = state.put(
    {
      id: id ?? state.newId(),
      name: title,
      subject: given('subject', before?.subject ?? ''),
      html,
      css: given('style_sheet', before?.css ?? ''),
      text: given('text', before?.text ?? ''),
      folder: category,
      details: { note: given('note', detail(before, 'note')), lead_in: given('lead_in', detail(before, 'lead_in')) },
      pictures: {},
    },
    now,
  );
  return answer(id === null ? 201 : 200, told(stored, address));
}

const picture = ({ id, name }: KeptPicture): object => ({ name, path: `/library/${id}/${encodeURIComponent(name)}` });

/** Larkfold: style sheet and body apart, a picture library that answers paths, categories, a footer of its own. */
export const larkfold: Platform = {
  name: 'larkfold',
  title: 'Larkfold (simulated)',
  habit: 'Takes style sheet and body apart; adds a footer of its own where the body has no tag to leave by.',
  colour: '#7a4b21',
  open: ['GET /library/{id}/{name}'],
  error,
  credentials: { user: USER, password: PASSWORD },
  sent: ({ html, css }) =>
    `<!doctype html><html><head><meta charset="utf-8"><style>${css}</style></head><body>${html}${html.includes(LEAVE) ? '' : OWN_FOOTER}</body></html>`,
  refusal: ({ headers }) => (headers['authorization'] === LOGIN ? null : error(401, 'Name or password is wrong.')),
  routes: {
    'GET /library/{id}/{name}': ({ params, state }) => pictureAnswer(params['id'] ?? '', state),
    'GET /pictures': ({ query, state }) =>
      answer(200, {
        pictures: state.pictures.filter(({ name }) => name.startsWith(query.get('name') ?? '')).map(picture),
      }),
    'POST /pictures': ({ body, state }) => {
      const [file] = body.files.get('picture') ?? [];
      if (file === undefined || !file.type.startsWith('image/'))
        return error(422, 'There is no picture in the field "picture".');
      return answer(201, picture(state.addPicture(file.name, file.type, file.bytes)));
    },
    'GET /categories': ({ state }) => answer(200, { categories: state.folders }),
    'POST /categories': ({ body, state }) => {
      const name = jsonText(body, 'name').trim();
      if (name === '') return error(422, 'A category needs a name.');
      if (state.folders.some((folder) => folder.name === name))
        return error(409, `There is a category "${name}" already.`);
      return answer(201, state.addFolder(name));
    },
    'GET /letters': ({ query, state, address }) =>
      answer(200, {
        letters: state.templates
          .filter(({ name }) => name === (query.get('title') ?? name))
          .map((template) => told(template, address)),
      }),
    'POST /letters': (request) => store(request, null),
    'GET /letters/{id}': ({ params, state, address }) => {
      const template = state.template(params['id'] ?? '');
      return template === null ? error(410, 'This letter is gone.') : answer(200, told(template, address));
    },
    'PATCH /letters/{id}': (request) =>
      request.state.template(request.params['id'] ?? '') === null
        ? error(410, 'This letter is gone.')
        : store(request, request.params['id'] ?? ''),
  },
};
