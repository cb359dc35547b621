import type { Rule } from '../facts/rule.js';

export const altFileName: Rule = {
  code: 'alt-file-name',
  group: 'pictures',
  severity: 'warning',
  sentence: 'The alt "{alt}" is the name of a file',
  remedy: 'Say what the picture shows.',
  why: 'Readers who see no picture see this in its place.',
  bad: '<p><img src="img_0042.jpg" width="300" height="200" alt="img_0042.jpg"></p>',
  good: '<p><img src="saw.png" width="300" height="200" alt="A saw on the bench"></p>',
  needs: [],
  *find(page) {
    for (const { element, src, alt } of page.pictures) {
      const text = alt?.trim() ?? '';
      const name = /([^/\\?#]*)(?:[?#].*)?$/.exec(src)?.[1] ?? '';
      const isName =
        /\.(?:png|jpe?g|gif|webp|svg|avif|bmp)$/i.test(text) ||
        /^(?:img|dsc|image|picture|photo|untitled|screenshot)[\s_-]*\d*$/i.test(text);
      const isStem = /[_\d]|-.*-/.test(text) && !/\s/.test(text) && text === name.replace(/\.\w+$/, '');
      if (isName || isStem) yield { place: page.placeOfAttribute(element, 'alt'), data: { alt: text } };
    }
  },
};
