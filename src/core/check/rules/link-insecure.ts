import type { Rule } from '../facts/rule.js';

export const linkInsecure: Rule = {
  code: 'link-insecure',
  group: 'links',
  severity: 'note',
  sentence: 'The link to {host} is not encrypted',
  remedy: 'Write https:// where the page has it.',
  why: 'Whoever sits in the same network can read and change what the reader sees there, and browsers warn of such pages.',
  bad: '<p><a href="http://alderlane.example/">Our page</a></p>',
  good: '<p><a href="https://alderlane.example/">Our page</a></p>',
  needs: [],
  *find(page) {
    for (const { element, href } of page.links) {
      const host = /^http:\/\/([^/?#:]+)/i.exec(href ?? '')?.[1];
      if (host !== undefined && !/^(?:localhost|127\.)/.test(host))
        yield { place: page.placeOfAttribute(element, 'href'), data: { host } };
    }
  },
};
