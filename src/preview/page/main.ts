/// <reference lib="dom" />
import { Bench } from './bench.js';
import { make } from './dom.js';
import { Wall } from './wall.js';

const root = document.querySelector<HTMLElement>('#preview') ?? document.body;
const name = decodeURIComponent(location.pathname.slice(1));
const place = name === '' ? new Wall(root) : new Bench(root, name);
place.start().catch((error: unknown) => {
  root.append(
    make('p', {
      class: 'broken',
      attributes: { role: 'alert' },
      text: `The preview does not answer: ${String(error)}`,
    }),
  );
});
