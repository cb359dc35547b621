import { relative } from 'node:path';
import {
  atOrigin,
  finding,
  watched,
  isError,
  withoutRepeats,
  type Finding,
  type Report,
} from '../../core/findings/finding.js';
import { compileMessage, type CompiledMessage } from '../../core/message/compile-message.js';
import { sampleRecipient, type SampleRecipient } from '../../core/dialects/sample/fill-sample.js';
import type { LinkParameter } from '../../core/message/link-parameters.js';
import { pictureWidths } from '../../core/message/picture-widths.js';
import { checkWrittenText, readWrittenText, type WrittenText } from '../../core/message/written-text.js';
import { readMessage, type MessageSource, type MessageSources } from '../../core/message/read-message.js';
import { replaceSentinels } from '../../core/html/tags.js';
import { tagsAsWritten } from '../../core/dialects/write/tag-texts.js';
import { expandLine, expandPage, expandText } from '../../core/template/expand.js';
import type { ExpandedPage } from '../../core/template/expanded-page.js';
import type { SourceText } from '../../core/text/source-text.js';
import { breaksPage, type Expansion } from '../../core/template/expansion.js';
import { slug } from '../../core/expressions/filters.js';
import { textOf, type BuildRecord, type BuildValue } from '../../core/expressions/values.js';
import type { Config, Destination } from '../config/config.js';
import { rowsOf } from '../load/data-files.js';
import type { FileLog } from '../files/file-log.js';
import { SharedEditions, type CompiledVersions } from './shared-editions.js';
import type { Edition, PreparedEdition } from './prepared-edition.js';
import type { LoadedMessage } from '../load/load-message.js';
import { ReferenceReader, type AttachedFile } from '../load/message-files.js';
import { addDrawnPictures } from '../load/drawn-pictures.js';
import { carriedPictures, type CarriedPicture, type NamedPicture } from '../load/message-pictures.js';

/** The files of an edition, collected while it is compiled. */
interface EditionFiles {
  readonly pictures: Map<string, NamedPicture>;
  attachments: readonly AttachedFile[];
  styleSheets: ReadonlyMap<string, SourceText>;
}

/**
 * Somebody who looks at editions while they are compiled: an edition is shown as soon as its HTML is there, with elements that
 * say where they were written. Its text version is made while they look.
 */
export type Onlooker = (ready: PreparedEdition) => Promise<void>;

/** What editions are compiled with. */
export interface PreparerSetting {
  readonly files: FileLog;
  readonly partNames: readonly string[];
  readonly onlooker?: Onlooker | null;
  /** Whether what is behind an error is compiled as well as it can be. */
  readonly goesOn?: boolean;
}

/** Compiles the editions of a message, one after the other. */
export class MessagePreparer {
  readonly #references: ReferenceReader;
  readonly #shared = new SharedEditions((page) => this.versionsOf(page));
  private readonly goesOn: boolean;

  constructor(
    private readonly message: LoadedMessage,
    private readonly config: Config,
    private readonly setting: PreparerSetting,
  ) {
    this.goesOn = setting.goesOn === true;
    this.#references = new ReferenceReader(message.path, config.folder, setting.files);
  }

  /** The editions of the message: one for each row of its file, or the message itself. */
  editions(report: Report): Edition[] {
    const { editions, values } = this.message;
    if (editions === null) return [{ name: null, values, shared: this.shared(null) }];
    const rows = rowsOf(editions.file);
    if (rows.length === 0) report(finding('editions-none', editions.named.place, { path: editions.named.path }));
    const names = new Set<string>();
    return rows.flatMap((row, index): Edition[] => {
      const own = new Map<string, BuildValue>([...values, ...row]);
      const name = this.editionName(row, own, index, report);
      const place = editions.pattern === null ? editions.file.placeOfItem(index) : editions.named.place;
      if (name === null) return [];
      if (!/^[\p{L}\d][\p{L}\d._-]*$/u.test(name)) {
        report(finding('edition-name', editions.file.placeOfItem(index), { name }));
        return [];
      }
      if (names.has(name)) {
        report(finding('edition-twice', place, { name }));
        return [];
      }
      names.add(name);
      return [{ name, values: own, shared: this.shared({ name, index: index + 1 }) }];
    });
  }

  private editionName(row: BuildRecord, values: BuildRecord, index: number, report: Report): string | null {
    const pattern = this.message.editions?.pattern ?? null;
    if (pattern !== null) return expandLine(pattern, this.expansion({ values, shared: this.shared(null) }, report));
    const [first] = row.values();
    const name = slug(textOf(first) ?? '');
    return name === '' ? String(index + 1) : name;
  }

  /** Compiles an edition. Null where its findings leave nothing to write. */
  async prepare(edition: Edition, report: Report): Promise<PreparedEdition | null> {
    const files: EditionFiles = { pictures: new Map(), attachments: [], styleSheets: new Map() };
    const { onlooker = null } = this.setting;
    const made = await this.told(report, async (collect) => {
      const read = this.read(edition, collect);
      const compiled = read === null ? null : await this.compile(read.html, { files, onlyText: false }, collect);
      return read === null || compiled === null ? null : { read, html: compiled };
    });
    if (made === null) return null;
    const { read, html } = made;
    const own = watched(report);
    const writtenText = this.writtenText(edition, html, own.report);
    if (own.hasFailed() && !this.goesOn) return null;
    const isMadeAlike = writtenText !== null || read.text === read.html;
    const carried = (collect: Report): Promise<Map<string, CarriedPicture>> =>
      carriedPictures(files.pictures, pictureWidths(html), { mostBytes: null }, collect);
    if (onlooker !== null) {
      const versions = { html, text: html, writtenText };
      const { attachments, styleSheets } = files;
      const pictures = await carried(() => undefined);
      await onlooker({ edition, versions, pictures, attachments, styleSheets });
    }
    const text = isMadeAlike
      ? html
      : await this.told(report, (collect) => this.compile(read.text, { files, onlyText: true }, collect));
    if (text === null) return null;
    const pictures = await this.told(report, carried);
    const { attachments, styleSheets } = files;
    const versions = { html, text, writtenText };
    return pictures === null ? null : { edition, versions, pictures, attachments, styleSheets };
  }

  /**
   * Compiles an edition among many of which only what they become is of interest: what is alike in them but for their texts
   * is compiled once.
   */
  async prepareAlike(edition: Edition, report: Report): Promise<PreparedEdition | null> {
    const found: Finding[] = [];
    const page = this.expand(edition, (item) => found.push(item));
    if (page === null || found.length > 0) return this.prepare(edition, report);
    const alike = await this.#shared.alike(page);
    if (alike === null) {
      const isNew = this.#shared.isNew(page);
      const ready = await this.prepare(edition, (item) => {
        found.push(item);
        report(item);
      });
      if (isNew && ready !== null) this.#shared.add(page, ready, found);
      return ready;
    }
    const own = watched(report);
    const writtenText = this.writtenText(edition, alike.versions.html, own.report);
    if (own.hasFailed() && !this.goesOn) return null;
    return { ...alike.before, edition, versions: { ...alike.versions, writtenText } };
  }

  /** Both versions of an expanded page; null where it cannot be compiled. */
  private async versionsOf(page: ExpandedPage): Promise<CompiledVersions | null> {
    const { report, hasFailed } = watched(() => undefined);
    const files: EditionFiles = { pictures: new Map(), attachments: [], styleSheets: new Map() };
    const read = this.readExpanded(page, new Set(), report);
    const html = await this.compile(read.html, { files, onlyText: false }, report);
    const isAlike = this.message.writtenText !== null || read.text === read.html;
    const text = isAlike ? html : await this.compile(read.text, { files, onlyText: true }, report);
    return html === null || text === null || hasFailed() ? null : { html, text };
  }

  /** The text version that the author wrote, for an edition; what is out of step with the message is reported. */
  private writtenText(edition: Edition, html: CompiledMessage, report: Report): WrittenText | null {
    const template = this.message.writtenText;
    const expanded = template === null ? null : expandText(template, this.expansion(edition, report));
    if (expanded === null) return null;
    const { report: atAuthors, hasFailed } = watched((item) => report(atOrigin(item)));
    const buildNames = this.buildNames(edition);
    const text = readWrittenText(expanded, { fields: this.config.fields, buildNames }, atAuthors);
    if (!hasFailed()) checkWrittenText(text, html, atAuthors);
    return text;
  }

  private async compile(
    source: MessageSource,
    { files, onlyText }: { readonly files: EditionFiles; readonly onlyText: boolean },
    report: Report,
  ): Promise<CompiledMessage | null> {
    const loaded = await this.#references.load(source, report);
    for (const [path, picture] of loaded.pictures) files.pictures.set(path, picture);
    for (const { path } of source.pictures) {
      const slice = this.message.slices.get(path);
      if (slice !== undefined) files.pictures.set(path, slice);
    }
    files.attachments = loaded.attachments;
    files.styleSheets = loaded.styleSheets;
    const compiled = compileMessage(
      source,
      {
        styleSheet: (key) => loaded.styleSheets.get(key) ?? null,
        pictureSize: (key) => loaded.pictures.get(key.trim())?.facts ?? null,
        width: this.config.width,
        fonts: this.config.fonts,
        drawsPictures: true,
        onlyText,
      },
      report,
    );
    if (compiled !== null) await addDrawnPictures(compiled, files.pictures, report);
    return compiled;
  }

  /** Expands and reads an edition, without compiling it. Null where it cannot be expanded. */
  read(edition: Edition, report: Report): MessageSources | null {
    const page = this.expand(edition, report);
    return page === null ? null : this.readExpanded(page, this.buildNames(edition), report);
  }

  /** An edition with its values filled in and its parts put in. Null where it cannot be expanded. */
  private expand(edition: Edition, report: Report): ExpandedPage | null {
    const { report: inTemplates, hasFailed } = watched(report, breaksPage);
    const page = expandPage(this.message.page, this.message.content, this.expansion(edition, inTemplates));
    // What is missing from the text would be complained of once more.
    return hasFailed() && !this.goesOn ? null : page;
  }

  private readExpanded(page: ExpandedPage, buildNames: ReadonlySet<string>, report: Report): MessageSources {
    const { fields, defaults } = this.config;
    return readMessage(
      page,
      { fields, defaults, buildNames, marksPlaces: (this.setting.onlooker ?? null) !== null },
      report,
    );
  }

  private buildNames({ shared, values }: Edition): ReadonlySet<string> {
    return new Set([...shared.keys(), ...values.keys()]);
  }

  /** The subject as it is written, merge tags and all. */
  subjectOf({ metadata, tags }: MessageSource): string {
    return replaceSentinels(metadata.subject, (index) => tagsAsWritten(tags).write(index, 'text'));
  }

  /**
   * A recipient that the samples of the project describe.
   * @param sample the name of a sample; null for what the fields themselves give
   */
  recipient(year: number, sample: string | null): SampleRecipient {
    const { fields, sender, samples } = this.config;
    const system = {
      company: sender?.company ?? '',
      postalAddress: sender?.postalAddress ?? '',
      year,
      unsubscribe: sender?.unsubscribe.find((address) => address.startsWith('https:')) ?? null,
    };
    const own = sample === null ? undefined : samples.get(sample);
    return sampleRecipient(fields, system, this.message.language, own ?? new Map());
  }

  /** The parameters that a destination adds to the links of an edition. */
  linkParameters({ linkParameters }: Destination, edition: Edition, report: Report): LinkParameter[] {
    const expansion = this.expansion(edition, report);
    return linkParameters.flatMap(({ name, pattern }) => {
      const value = expandLine(pattern, expansion);
      return value === null ? [] : [{ name, value }];
    });
  }

  /** Does some work whose findings are told at the authors' places, each once. Null where one of them is an error. */
  private async told<T>(report: Report, work: (collect: Report) => T | Promise<T>): Promise<T | null> {
    const found: Finding[] = [];
    const value = await work((item) => found.push(atOrigin(item)));
    for (const item of withoutRepeats(found)) report(item);
    return found.some(isError) && !this.goesOn ? null : value;
  }

  private expansion({ values, shared }: Omit<Edition, 'name'>, report: Report): Expansion {
    const { parts, language } = this.message;
    const fields = new Set(this.config.fields.keys());
    return { values, shared, parts, partNames: this.setting.partNames, language, fields, report };
  }

  private shared(edition: { name: string; index: number } | null): BuildRecord {
    const { sender } = this.config;
    const named = (entries: Readonly<Record<string, string | number | null>>): BuildRecord =>
      new Map(Object.entries(entries));
    return new Map<string, BuildValue>([
      ['message', named({ name: this.message.name, file: relative(this.config.folder, this.message.path) })],
      ['project', named({ name: this.config.name, website: sender?.website ?? null })],
      ...(edition === null ? [] : [['edition', named(edition)] as const]),
      ...(sender === null
        ? []
        : [
            [
              'sender',
              named({
                name: sender.name,
                address: sender.address,
                reply_to: sender.replyTo,
                company: sender.company,
                postal_address: sender.postalAddress,
                website: sender.website,
              }),
            ] as const,
          ]),
    ]);
  }
}
