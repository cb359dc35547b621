import Handlebars from 'handlebars';
import { Liquid } from 'liquidjs';
import Mustache from 'mustache';
import nunjucks from 'nunjucks';
import { decodeHTML } from 'entities';

/** The engines of the open template languages, by the names of their dialects. */
export type Language = 'mustache' | 'handlebars' | 'jinja' | 'liquid';

export const languages: readonly Language[] = ['mustache', 'handlebars', 'jinja', 'liquid'];

const liquid = new Liquid();
const jinja = new nunjucks.Environment(null, { autoescape: true });

/** What a template's own engine makes of it. */
export function render(language: Language, template: string, data: object): string {
  switch (language) {
    case 'mustache':
      return Mustache.render(template, data);
    case 'handlebars':
      return Handlebars.compile(template)(data);
    case 'jinja':
      return jinja.renderString(template, data);
    case 'liquid':
      return String(liquid.parseAndRenderSync(template, data));
  }
}

/** A rendered text without regard to white space and to how characters are escaped. */
export function comparable(rendered: string): string {
  return decodeHTML(rendered).replace(/\s+/g, '');
}
