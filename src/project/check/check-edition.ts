import { checkPage } from '../../core/check/check-page.js';
import { Page, type ProjectFacts } from '../../core/check/page/page.js';
import { webAddresses } from '../../core/check/facts/link-places.js';
import type { PictureFile } from '../../core/check/page/picture-facts.js';
import type { SheetFile } from '../../core/css/cascade/sheets.js';
import { baseOf } from '../../core/css/values/addresses.js';
import type { Finding, Place } from '../../core/findings/finding.js';
import { attribute } from '../../core/html/tree.js';
import { darkOnNothing } from '../../pictures/dark-drawing.js';
import type { Config } from '../config/config.js';
import type { PreparedEdition } from '../visit/prepared-edition.js';
import type { EditionTask } from '../visit/visit-messages.js';
import type { RenderedEdition } from '../visit/render-edition.js';
import type { CheckBench } from './check-bench.js';

/** What came of an edition. */
export interface CheckedEdition {
  readonly findings: readonly Finding[];
  /** The web addresses that it leads to, where they stand. */
  readonly links: readonly { readonly url: string; readonly place: Place }[];
}

/** What the rules find on an edition of a message, where its authors wrote it. */
export async function checkEdition(
  { config, message, preparer }: EditionTask,
  ready: PreparedEdition,
  { rendered }: RenderedEdition,
  bench: CheckBench,
): Promise<CheckedEdition> {
  const { html } = ready.versions;
  const { doc, errors, metadata, tags } = html.source;
  const subject = preparer.subjectOf(html.source);
  const page = new Page({
    doc,
    declared: html.declared,
    errors,
    isFinished: false,
    linked: (element): SheetFile | null => {
      const path = attribute(element, 'href') ?? '';
      const source = ready.styleSheets.get(path);
      return source === undefined ? null : { source, base: baseOf(path) };
    },
    pictures: await pictureFiles(ready),
    outputs: [{ html: rendered.html, text: rendered.text }],
    text: rendered.text,
    tags,
    project: {
      sender: senderOf(config),
      fields: config.fields,
      otherSubjects: new Map([...bench.subjects].filter(([name]) => name !== message)),
    },
    dialects: bench.dialects,
    features: bench.features,
    engines: bench.engines,
    preheader: metadata.preheader,
  });
  const found = checkPage(page, bench.rules);
  bench.subjects.set(message, subject);
  return { findings: found, links: webAddresses(page) };
}

function senderOf({ sender }: Config): ProjectFacts['sender'] {
  if (sender === null) return null;
  const { address, replyTo, postalAddress, company, website } = sender;
  return { address, replyTo, postalAddress, company, website };
}

async function pictureFiles({ pictures, versions }: PreparedEdition): Promise<Map<string, PictureFile>> {
  const files = new Map<string, PictureFile>();
  for (const [path, { from, bytes, format }] of pictures) {
    // Looking at pixels takes time: only a dark scheme asks for it.
    const isDark = versions.html.hasDarkScheme && (await darkOnNothing(from.bytes));
    const { width, height } = from.facts;
    // A drawing is sharp at any size.
    const isDrawing = from.facts.format === 'svg';
    files.set(path, { width, height, bytes: bytes.length, format: isDrawing ? 'svg' : format, isDark });
  }
  return files;
}
