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

/** Elements that stand within a line of text unless a style says otherwise. */
export const inlineElements: ReadonlySet<string> = new Set(
  (
    'a em strong small s cite q dfn abbr data time code var samp kbd sub sup i b u mark bdi bdo span br wbr ins del img ' +
    'font big strike tt label ruby'
  ).split(' '),
);
