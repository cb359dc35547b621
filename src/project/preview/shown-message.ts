import { relative } from 'node:path';
import type { MessageAt } from '../../core/compare/compare-states.js';
import type { Feature } from '../../core/engines/engine.js';
import { simulate } from '../../core/engines/simulate.js';
import { reasonOf, severityOf, type Finding, type Place } from '../../core/findings/finding.js';
import { previewPage } from '../../core/message/preview-page.js';
import { sourcePage } from '../../core/message/proof-pages.js';
import { importCard } from '../../core/packages/import-card.js';
import type { BenchMessage, WallMessage } from '../../core/views/model.js';
import type { View } from '../../core/views/view.js';
import { packFiles } from '../build/build-edition.js';
import type { Config } from '../config/config.js';
import type { PreparedEdition } from '../visit/prepared-edition.js';
import { renderInput, type RenderedEdition } from '../visit/render-edition.js';
import { shapeFor, type Target } from '../visit/target.js';
import type { EditionTask, MessageInputs, MessageOverview } from '../visit/visit-messages.js';
import { countsOf, describeFindings, stateOf } from './describe-findings.js';
import { linksOf, placeNames } from './describe-page.js';
import { PICTURE_PATH, type Looked } from './preview-source.js';

/** An edition, compiled: enough to show it. */
export interface ShownPage {
  readonly task: EditionTask;
  readonly ready: PreparedEdition;
  readonly places: readonly (Place | null)[];
  /** Pages of views, by what decides about them: views of several widths show one page. */
  readonly pages: Map<string, string>;
}

/** What a look at an edition came to. */
export interface Look {
  readonly findings: readonly Finding[];
  /** Null where it does not build. */
  readonly page: ShownPage | null;
  readonly rendered: ReadonlyMap<string, RenderedFor>;
  readonly inputs: MessageInputs;
  readonly overview: MessageOverview | null;
  readonly digest: string;
}

/** An edition, written for a destination. */
export interface RenderedFor {
  readonly target: Target;
  readonly done: RenderedEdition;
}

/** What of a project its messages are described with. */
export interface DescribedProject {
  readonly config: Config;
  readonly targets: readonly Target[];
  /** What is wrong with the project itself. */
  readonly problems: readonly Finding[];
}

/** An edition, as it shows: now, or as it was when it was built last. */
export interface Made extends RenderedFor {
  readonly page: ShownPage;
}

/** A message as the wall shows it. */
export function wallMessageOf(
  name: string,
  look: Look,
  first: Made | null,
  { config, targets, problems }: DescribedProject,
): WallMessage {
  const findings = describeFindings([...problems, ...look.findings], [], config.folder);
  return {
    name,
    state: stateOf(findings, look.page !== null),
    subject: first?.done.rendered.subjectSample ?? look.overview?.subject ?? '',
    topic: look.overview?.topic ?? null,
    keywords: look.overview?.keywords ?? [],
    editions: look.overview?.editions ?? [],
    destinations: targets.map(({ destination }) => destination.name),
    weight: first === null ? 0 : Buffer.byteLength(first.done.rendered.html),
    counts: countsOf(findings),
    digest: look.digest,
  };
}

/** A message of which nothing is known yet. */
export const unseen: Omit<WallMessage, 'name' | 'destinations'> = {
  state: null,
  subject: '',
  topic: null,
  keywords: [],
  editions: [],
  weight: 0,
  counts: { error: 0, warning: 0, note: 0 },
  digest: '',
};

/** A message as the bench shows it. */
export function benchMessageOf(
  looked: Looked,
  look: Look,
  made: Made | null,
  { config, targets, problems }: DescribedProject,
): BenchMessage {
  const nameOf = (name: string): string => relative(config.folder, name) || name;
  const findings = describeFindings([...problems, ...look.findings], made?.page.places ?? [], config.folder);
  const base = {
    name: looked.name,
    edition: looked.edition ?? look.overview?.editions[0] ?? null,
    editions: look.overview?.editions ?? [],
    destinations: targets.map(({ destination }) => destination.name),
    state: stateOf(findings, look.page !== null),
    hasPage: made !== null,
    sender: config.sender?.name ?? '',
    findings,
    samples: [...config.samples.keys()],
    digest: look.digest,
  };
  if (made === null) return { ...base, ...nothingShown(looked) };
  const { done, target, page } = made;
  const { html } = page.ready.versions;
  return {
    ...base,
    destination: target.destination.name,
    sender: done.facts.sender?.name ?? base.sender,
    subject: done.rendered.subjectSample,
    preheader: done.rendered.preheader,
    text: done.rendered.text,
    links: linksOf(html.source.doc),
    pictures: [...page.ready.pictures].map(([path, picture]) => ({
      name: picture.name,
      address: addressOf(picture.name),
      width: picture.from.facts.width,
      height: picture.from.facts.height,
      shown: html.pictureWidths.get(path) ?? null,
      bytes: picture.bytes.length,
      bytesBefore: picture.from.bytes.length,
    })),
    weight: Buffer.byteLength(done.rendered.html),
    card: cardOf(done, page.ready, target),
    places: placeNames(page.places, nameOf),
    slices: [...page.ready.pictures.values()]
      .filter(({ from }) => from.isFinished === true)
      .map(({ name }) => addressOf(name)),
  };
}

/** What a message comes to, for who compares it. */
export function stateOfMessage({ findings }: Look, page: ShownPage, done: RenderedEdition): MessageAt {
  const { html, text, subject, preheader, links } = done.rendered;
  const { tags } = page.ready.versions.html.source;
  return {
    ...{ html, text, subject, preheader, links },
    tags: tags.map(({ place }) => place.source.slice(place.span)),
    pictures: [...page.ready.pictures.values()].map(({ name }) => name),
    findings: findings.map((item) => `${severityOf(item)} ${item.code}: ${reasonOf(item)}`),
  };
}

/** The page of a view. */
export function pageOfView(
  { task, ready, pages }: ShownPage,
  target: Target,
  view: View,
  features: readonly Feature[],
): string {
  const picturePath = (path: string): string => {
    const picture = ready.pictures.get(path);
    return picture === undefined ? path : addressOf(picture.name);
  };
  const recipient = task.preparer.recipient(new Date().getFullYear(), view.sample);
  const { html } = ready.versions;
  const { scheme, pictures } = view;
  if (view.engine === 'source') {
    const source = sourcePage(html, { recipient, picturePath, styleSheets: ready.styleSheets });
    return simulate(source, { engine: 'webkit', scheme, pictures }, []);
  }
  // Views of several engines are made of one and the same page.
  const key = JSON.stringify(['as sent', target.destination.name, view.tags, view.sample]);
  const input = { ...renderInput(task, ready, target, picturePath, () => undefined), recipient };
  const sent = pages.get(key) ?? previewPage(html, input, view.tags);
  pages.set(key, sent);
  return simulate(sent, { engine: view.engine, scheme, pictures }, features);
}

function addressOf(picture: string): string {
  return PICTURE_PATH + encodeURIComponent(picture);
}

/** What there is to say of a message that never built. */
function nothingShown({
  destination,
}: Looked): Omit<
  BenchMessage,
  'name' | 'edition' | 'editions' | 'destinations' | 'state' | 'hasPage' | 'sender' | 'findings' | 'samples' | 'digest'
> {
  return {
    destination,
    subject: '',
    preheader: null,
    text: '',
    links: [],
    pictures: [],
    weight: 0,
    card: null,
    places: [],
    slices: [],
  };
}

/** The card of the package that the dialect asks for. */
function cardOf(done: RenderedEdition, ready: PreparedEdition, target: Target): string | null {
  const shape = shapeFor(target, null);
  if (shape === null || shape.shape === 'eml') return null;
  return importCard(done.facts, target.dialect.title, shape.shape, packFiles(shape, done, ready, target));
}
