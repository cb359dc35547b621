import {
  about,
  anyNumber,
  anything,
  either,
  flag,
  group,
  list,
  named,
  needed,
  number,
  oneOf,
  text,
  textOrNothing,
  textLike,
  usually,
  usuallyThere,
  whole,
  type Held,
} from '../../yaml/keys.js';
import { bodyKinds, pictureWays, requestMethods, stepNames } from '../push-api.js';

const settingName = /^[a-z][a-z\d_]*$/;
const takenName = /^[a-z][a-z\d_]*$/;

/** A place in an answer. */
const pointer = textLike(/^(?:\/[^/]*)+$|^$/, 'a JSON Pointer (/items/0/id)');

const requestLine = textLike(
  new RegExp(`^(?:${requestMethods.join('|')}) /\\S*$`),
  'a method and a path (POST /templates)',
);

const exchangeKeys = {
  request: about('Its method, and its path from the address of the interface', needed(requestLine)),
  headers: about('What it says besides', usually(named(null, text()), {})),
  body: about('How its content travels', usually(oneOf(...bodyKinds), 'none')),
  send: about('What it holds: JSON, or the fields of a form', usually(anything(), null)),
  file: about('The field of a form that the picture, or the zip of the message, goes in', text()),
  pictures: about('The field of a form that each picture of the message goes in', text()),
  take: about('Where in the answer values stand that are used later', usually(named(takenName, pointer), {})),
};

const exchange = group(exchangeKeys);

/** What it does not say is as in another request. */
const variation = group({
  request: exchangeKeys.request,
  headers: named(null, text()),
  body: oneOf(...bodyKinds),
  send: anything(),
  file: text(),
  pictures: text(),
  take: named(takenName, pointer),
});

const search = group({
  ...exchangeKeys,
  items: about('Where the list stands that is looked through', pointer),
  next: about(
    'Where the address of the next page stands; with parameter, what that parameter of the next request is',
    either(pointer, group({ at: needed(pointer), parameter: needed(text()) })),
  ),
});

const auth = either(
  group({ kind: needed(oneOf('none')) }),
  group({ kind: needed(oneOf('header')), name: needed(text()), value: needed(text()) }),
  group({ kind: needed(oneOf('basic')), user: needed(text()), password: needed(text()) }),
  group({ kind: needed(oneOf('bearer')), token: needed(text()) }),
  group({
    kind: needed(oneOf('client_credentials')),
    token_url: needed(text()),
    id: needed(text()),
    secret: needed(text()),
    scope: text(),
  }),
);

const picture = group({
  ...exchangeKeys,
  address: about('The address by which HTML shows the picture, of what was taken', usually(text(), '${picture.url}')),
  find: about('How a picture that is there already is found by its name', search),
});

const folder = group({
  name: about('What it is called', needed(text())),
  find: about('How it is found', needed(search)),
  create: about('How it is made', needed(exchange)),
});

/** `push:` of a dialect file. */
export const pushSchema = group({
  settings: about(
    'What a destination has to name beside url, with what it is for',
    usually(named(settingName, group({ about: needed(text()), secret: usually(flag(), false), usual: text() })), {}),
  ),
  auth: about('How the platform knows who asks: none, header, basic, bearer or client_credentials', needed(auth)),
  headers: about('What every request says', usually(named(null, text()), {})),
  images: about(
    'How pictures reach it: beside the HTML, into its own store, or elsewhere on the web before',
    needed(oneOf(...pictureWays)),
  ),
  picture: about('How a picture is put into its store', picture),
  folder: about('The folder or category that templates go into', folder),
  names: about('Whether two templates can have one name', usually(oneOf('unique', 'any'), 'any')),
  find: about('How templates are found by their name', needed(search)),
  read: about('What the platform gives back of a template: by that a change there is known', exchange),
  create: about('How a template is made', needed(exchange)),
  update: about('How a template is changed; what it does not say is as in create', needed(variation)),
  gone: about('The statuses by which it says that a template is gone', usually(list(whole(400, 499), 1), [404, 410])),
  limits: about(
    'How often it may be asked',
    usuallyThere(group({ requests_per_second: number(0.01, 1000), at_once: usually(whole(1, 20), 1) })),
  ),
  error: about('Where it says why it refuses something', usuallyThere(group({ message: pointer }))),
});

/** `exchanges:` of a dialect file. */
export const exchangesSchema = list(
  group({
    step: needed(oneOf(...stepNames)),
    values: usually(named(null, anything()), {}),
    request: needed(
      group({ line: needed(requestLine), headers: usually(named(null, text()), {}), body: usually(anything(), null) }),
    ),
    answer: needed(group({ status: usually(whole(200, 599), 200), body: usually(anything(), null) })),
    takes: named(takenName, either(textOrNothing(), anyNumber())),
    says: text(),
  }),
);

export type RawPush = NonNullable<Held<typeof pushSchema>>;
export type RawExchange = NonNullable<Held<typeof exchange>>;
export type RawSearch = NonNullable<Held<typeof search>>;
export type RawExchanges = NonNullable<Held<typeof exchangesSchema>>;
