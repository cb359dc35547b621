/** The library: everything here is pure, from text and data to text, data and findings. */
export { catalogue, type CatalogueEntry, type FindingCode, type Severity } from './catalogue.js';
export { plainPaint, renderFinding } from './code-frame.js';
export {
  exitCodeOf,
  finding,
  fixOf,
  isError,
  reasonOf,
  severityOf,
  type Finding,
  type Place,
  type Report,
} from './finding.js';
export { parseHtml, type ParsedDoc } from './html/parse.js';
export { checkStructure } from './html/structure.js';
export { neutralDelimiters, type TagDelimiters } from './html/tags.js';
export type { Doc } from './html/tree.js';
export { convertTags, recognizeDialects, type Conversion } from './merge/convert.js';
export type { Dialect } from './merge/dialect.js';
export { parseExpression, type Expression } from './merge/expression.js';
export type { MergeField, MergeFields, MergeTag } from './merge/model.js';
export { failedSamples } from './merge/prove-dialect.js';
export { importCard } from './package/import-card.js';
export { manifestJson, type MessageFacts } from './package/manifest.js';
export type { PackageFile } from './package/package-file.js';
export { plainText } from './plaintext/plain-text.js';
export type { LinkStyle, TextOptions } from './plaintext/options.js';
export { compileMessage, type CompiledMessage, type MessageFiles } from './source/compile-message.js';
export { readMessage, type MessageSource, type Metadata } from './source/read-message.js';
export { fillSample, sampleRecipient, type SampleRecipient } from './source/fill-sample.js';
export { renderMessage, renderSample, type RenderedMessage } from './source/render-message.js';
export { expandPage, type Expansion } from './template/expand.js';
export { readHtmlMessage, type HtmlMessage } from './template/message-template.js';
export type { Part, Template } from './template/nodes.js';
export { readPart } from './template/read-part.js';
export { buildValue, type BuildRecord, type BuildValue } from './template/values.js';
export { applyEdits, type Edit } from './text/apply-edits.js';
export { MappedText } from './text/mapped-text.js';
export { SourceText } from './text/source-text.js';
export type { Span } from './text/span.js';
