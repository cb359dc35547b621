/// <reference lib="dom" />
import type { BenchMessage } from '../../core/views/model.js';
import { make } from './dom.js';

/** The widths at which inboxes cut the line of a message, in px. */
const inboxes = [
  { title: 'phone', width: 280 },
  { title: 'beside a mail', width: 360 },
  { title: 'whole window', width: 560 },
] as const;

/** The line of a message as inboxes of three widths cut it: sender, subject, and what they show of the rest. */
export function inboxLines({ sender, subject, preheader, text }: BenchMessage): HTMLElement {
  const rest = preheader ?? text.replace(/\s+/g, ' ').trim().slice(0, 200);
  const lines = inboxes.map(({ title, width }) =>
    make(
      'div',
      {
        class: `inbox ${width > 500 ? 'wide' : 'narrow'}`,
        attributes: { role: 'group', 'aria-label': `In the inbox: ${title}` },
      },
      make('span', { class: 'caption', text: `${title}, ${width} px` }),
      sized(
        width,
        make(
          'div',
          { class: 'mail' },
          make('b', { class: 'from', text: sender === '' ? '(sender)' : sender }),
          make('span', { class: 'subject', text: subject === '' ? '(no subject)' : subject }),
          make('span', { class: preheader === null ? 'rest missing' : 'rest', text: rest }),
        ),
      ),
    ),
  );
  return make('div', { class: 'inboxes' }, ...lines);
}

function sized(width: number, element: HTMLElement): HTMLElement {
  element.style.width = `${width}px`;
  return element;
}
