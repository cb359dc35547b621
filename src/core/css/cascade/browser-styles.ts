/**
 * What a browser does to elements before any author speaks: the parts of the HTML standard's rendering section
 * (15.3) that elements of a mail use.
 */
export const browserStyles = `
html, body, address, article, aside, blockquote, center, dd, div, dl, dt, fieldset, figcaption, figure, footer, form,
h1, h2, h3, h4, h5, h6, header, hgroup, hr, legend, main, menu, nav, ol, p, pre, search, section, summary, ul { display: block }
area, base, datalist, head, link, meta, noembed, noframes, param, script, style, template, title { display: none }
[hidden], dialog:not([open]), rp { display: none }
details, dialog, fieldset, legend, optgroup, option { display: block }
li { display: list-item }
img { display: inline }
table { display: table; border-collapse: separate; border-spacing: 2px; box-sizing: border-box; text-indent: initial }
caption { display: table-caption; text-align: center }
colgroup { display: table-column-group } col { display: table-column }
thead { display: table-header-group; vertical-align: middle }
tbody { display: table-row-group; vertical-align: middle }
tfoot { display: table-footer-group; vertical-align: middle }
tr { display: table-row; vertical-align: inherit }
td, th { display: table-cell; padding: 1px; vertical-align: inherit }
th { font-weight: bold; text-align: -internal-center }
body { margin: 8px }
blockquote, figure { margin: 1em 40px }
p, dl, ol, ul, menu, pre { margin: 1em 0 }
dd { margin-inline-start: 40px }
ol, ul, menu { padding-inline-start: 40px }
ol { list-style-type: decimal }
ol ul, ul ul, ol menu, ul menu { list-style-type: circle }
ol ol ul, ol ul ul, ul ol ul, ul ul ul { list-style-type: square }
:is(ol, ul, menu, dl) :is(ol, ul, menu, dl) { margin-top: 0; margin-bottom: 0 }
h1 { margin: 0.67em 0; font-size: 2em; font-weight: bold }
h2 { margin: 0.83em 0; font-size: 1.5em; font-weight: bold }
h3 { margin: 1em 0; font-size: 1.17em; font-weight: bold }
h4 { margin: 1.33em 0; font-weight: bold }
h5 { margin: 1.67em 0; font-size: 0.83em; font-weight: bold }
h6 { margin: 2.33em 0; font-size: 0.67em; font-weight: bold }
address, cite, dfn, em, i, var { font-style: italic }
b, strong { font-weight: bolder }
code, kbd, samp, pre, tt { font-family: monospace }
listing, plaintext, xmp { display: block; margin: 1em 0; font-family: monospace }
listing, plaintext, pre, xmp { white-space: pre }
small { font-size: smaller } big { font-size: larger }
sub { vertical-align: sub; font-size: smaller }
sup { vertical-align: super; font-size: smaller }
u, ins { text-decoration: underline }
s, strike, del { text-decoration: line-through }
a[href] { color: #0000ee; text-decoration: underline; cursor: pointer }
hr { margin: 0.5em auto; border: 1px inset; color: gray; overflow: hidden }
center { text-align: -webkit-center }
[dir=rtl] { direction: rtl } [dir=ltr] { direction: ltr }
`;
