/// <reference lib="dom" />
/// <reference lib="dom.iterable" />

/** What an element is made with. */
export interface Made {
  readonly class?: string;
  readonly id?: string;
  readonly text?: string;
  readonly attributes?: Readonly<Record<string, string>>;
  readonly on?: { readonly [K in keyof HTMLElementEventMap]?: (event: HTMLElementEventMap[K]) => void };
}

/** Makes an element with what stands in it; texts are texts, never markup. */
export function make<K extends keyof HTMLElementTagNameMap>(
  tag: K,
  made: Made,
  ...children: readonly (Node | string | null)[]
): HTMLElementTagNameMap[K] {
  const element = document.createElement(tag);
  if (made.class !== undefined) element.className = made.class;
  if (made.id !== undefined) element.id = made.id;
  if (made.text !== undefined) element.textContent = made.text;
  for (const [name, value] of Object.entries(made.attributes ?? {})) element.setAttribute(name, value);
  for (const [name, listener] of Object.entries(made.on ?? {}))
    element.addEventListener(name, listener as (event: Event) => void);
  element.append(...children.filter((child) => child !== null));
  return element;
}

/** A button that says in words what it does. */
export function button(label: string, text: string, act: () => void, className = 'quiet'): HTMLButtonElement {
  const attributes = { type: 'button', 'aria-label': label, title: label };
  return make('button', { class: className, text, attributes, on: { click: act } });
}

/** A choice among words. */
export function choice<T extends string>(
  label: string,
  options: readonly (readonly [value: T, text: string])[],
  chosen: T,
  choose: (value: T) => void,
): HTMLLabelElement {
  const select = make('select', { on: { change: () => choose(select.value as T) } });
  for (const [value, text] of options) {
    const option = make('option', { text, attributes: { value } });
    option.selected = value === chosen;
    select.append(option);
  }
  return make('label', { class: 'field' }, make('span', { text: label }), select);
}

/** A thing that is so or not. */
export function tick(label: string, isSo: boolean, set: (isSo: boolean) => void): HTMLLabelElement {
  const input = make('input', { attributes: { type: 'checkbox' }, on: { change: () => set(input.checked) } });
  input.checked = isSo;
  return make('label', { class: 'tick' }, input, make('span', { text: label }));
}
