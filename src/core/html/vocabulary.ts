/** Elements without content and end tag (HTML standard, 13.1.2 "Void elements"). */
export const voidElements: ReadonlySet<string> = new Set(
  'area base br col embed hr img input link meta source track wbr'.split(' '),
);

/** Elements whose end tag may be left out (HTML standard, 13.1.2.4 "Optional tags"). */
export const optionalEndTag: ReadonlySet<string> = new Set(
  'html head body li dt dd p rt rp optgroup option colgroup caption thead tbody tfoot tr td th'.split(' '),
);

/** Elements that HTML defines and that a message may use. */
export const htmlElements: ReadonlySet<string> = new Set(
  (
    'html head title base link meta style body article section nav aside h1 h2 h3 h4 h5 h6 hgroup header footer address ' +
    'p hr pre blockquote ol ul menu li dl dt dd figure figcaption main search div a em strong small s cite q dfn abbr ruby ' +
    'rt rp data time code var samp kbd sub sup i b u mark bdi bdo span br wbr ins del picture source img iframe embed ' +
    'object video audio track map area table caption colgroup col tbody thead tfoot tr td th form label input button select ' +
    'datalist optgroup option textarea output progress meter fieldset legend details summary dialog script noscript template ' +
    'slot canvas center font big strike tt'
  ).split(' '),
);

/** Elements that mail clients remove or refuse, with what to write instead. */
export const unsupportedElements: ReadonlyMap<string, string> = new Map([
  ['script', 'Remove it: mail clients run no scripts.'],
  ['iframe', 'Show a picture that links to the page instead.'],
  ['embed', 'Show a picture that links to the content instead.'],
  ['object', 'Show a picture that links to the content instead.'],
  ['canvas', 'Use a picture.'],
  ['video', 'Show a still picture that links to the video.'],
  ['audio', 'Link to the recording.'],
  ['form', 'Link to a page that has the form.'],
  ['input', 'Link to a page that has the form.'],
  ['select', 'Link to a page that has the form.'],
  ['textarea', 'Link to a page that has the form.'],
  ['button', 'Use a link: <a href="…"> with padding and a background becomes a button.'],
  ['dialog', 'Put the content into the page.'],
  ['details', 'Show the content, or link to it.'],
  ['template', 'Move its content out of it.'],
  ['slot', 'Remove it: there is nothing that would fill it.'],
  ['svg', 'Use a PNG picture.'],
  ['math', 'Use a picture.'],
]);

/** Elements that stand within a line of text unless a style says otherwise. */
export const inlineElements: ReadonlySet<string> = new Set(
  (
    'a em strong small s cite q dfn abbr data time code var samp kbd sub sup i b u mark bdi bdo span br wbr ins del img ' +
    'font big strike tt label ruby'
  ).split(' '),
);
