/** The library: everything here is pure, from text and data to text, data and findings. */
export { catalogue, type CatalogueEntry, type FindingCode, type Severity } from './findings/catalogue.js';
export { plainPaint, renderFinding } from './findings/code-frame.js';
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
} from './findings/finding.js';
export { parseHtml, type ParsedDoc } from './html/parse.js';
export { checkStructure } from './html/structure.js';
export { neutralDelimiters, type TagDelimiters } from './html/tags.js';
export type { Doc } from './html/tree.js';
export { recognizeDialects } from './dialects/convert/choose-dialect.js';
export { convertTags, type Conversion } from './dialects/convert/convert-tags.js';
export type { Dialect } from './dialects/dialect.js';
export { parseExpression, type Expression } from './expressions/expression.js';
export type { MergeField, MergeFields, MergeTag } from './dialects/model.js';
export { failedSamples } from './dialects/file/prove-dialect.js';
export { importCard } from './packages/import-card.js';
export { manifestJson, type MessageFacts } from './packages/manifest.js';
export type { PackageFile } from './packages/package-file.js';
export { plainText } from './plaintext/plain-text.js';
export type { LinkStyle, TextOptions } from './plaintext/options.js';
export { compileMessage, type CompiledMessage, type MessageFiles } from './message/compile-message.js';
export { readMessage, type MessageSource, type Metadata } from './message/read-message.js';
export { fillSample, sampleRecipient, type SampleRecipient } from './dialects/sample/fill-sample.js';
export { renderMessage, renderSample, type RenderedMessage } from './message/render-message.js';
export { expandPage, type Expansion } from './template/expand.js';
export { readHtmlMessage, type HtmlMessage } from './template/message-template.js';
export type { Part, Template } from './template/nodes.js';
export { readPart } from './template/read-part.js';
export { buildValue, type BuildRecord, type BuildValue } from './expressions/values.js';
export { applyEdits, type Edit } from './text/apply-edits.js';
export { MappedText } from './text/mapped-text.js';
export { SourceText } from './text/source-text.js';
export type { Span } from './text/span.js';
