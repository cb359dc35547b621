import type { Rule } from '../facts/rule.js';
import { loadedFonts, namesIn } from '../facts/fonts.js';

export const fontUnused: Rule = {
  code: 'font-unused',
  group: 'fonts',
  severity: 'note',
  sentence: 'The font {family} is loaded, and nothing is set in it',
  remedy: 'Take its @font-face or its <link> out.',
  why: 'Readers wait for it before the mail shows, and see none of it.',
  bad: '<style>@font-face { font-family: "Karrik"; src: url(https://alderlane.example/karrik.woff2) }</style><p>Soon</p>',
  good: '<style>@font-face { font-family: "Karrik"; src: url(https://alderlane.example/karrik.woff2) } p { font-family: Karrik, sans-serif }</style><p>Soon</p>',
  needs: [],
  *find(page) {
    const loaded = loadedFonts(page);
    if (loaded.length === 0) return;
    const used = new Set(
      page.declared
        .flat()
        .filter(({ declaration }) => /^font(?:-family)?$/.test(declaration.property))
        .flatMap(({ declaration }) => namesIn(declaration.value)),
    );
    for (const { family, place } of loaded) if (!used.has(family.toLowerCase())) yield { place, data: { family } };
  },
};
