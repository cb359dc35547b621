import type { Delivery } from '../core/delivery/deliveries.js';
import type { RequestFiles } from '../core/delivery/fill-request.js';
import { canonicalJson } from '../core/delivery/prove-exchanges.js';
import { takenOf, type Taken } from '../core/delivery/read-answer.js';
import { filledText, type RequestValues } from '../core/delivery/values.js';
import type { Finding } from '../core/findings/finding.js';
import type { DeliveryMemory } from './delivery-memory.js';
import type { PlatformClient } from './platform-client.js';
import { searchFor, type Failed } from './search.js';

/** A template as it is to be at a platform. */
export interface TemplateContent {
  readonly message: string;
  readonly edition: string | null;
  /** What the platform calls it. */
  readonly name: string;
  readonly values: RequestValues;
  readonly files: RequestFiles;
  /** The digest of all that is sent. */
  readonly digest: string;
  /** The digest of the message's file. */
  readonly source: string;
}

/** What a push has to work with. */
export interface PushTools {
  readonly client: PlatformClient;
  readonly memory: DeliveryMemory;
  /** The SHA-256 of a text, in hexadecimal. */
  readonly digestOf: (text: string) => string;
  /** Whether what somebody did there gives way. */
  readonly isForced: boolean;
  /** Whether a template that is gone there is made anew. */
  readonly makesAnew: (what: string) => Promise<boolean>;
}

/** What came of a template. */
export interface PushedTemplate {
  readonly how: 'created' | 'updated' | 'unchanged' | 'found there' | 'failed';
  readonly id: string | null;
  readonly link: string | null;
  readonly findings: readonly Finding[];
}

/** So often a create that may have happened is looked up, and made again. */
const ROUNDS = 3;

/**
 * Brings a template to a platform, by the law of a push: what is on record is updated, what is unchanged is left alone, what
 * is gone or was changed there is never made or overwritten unasked, and nothing is made twice, wherever the push before this
 * one ended.
 */
export function pushTemplate(content: TemplateContent, tools: PushTools): Promise<PushedTemplate> {
  return new TemplatePush(content, tools).run();
}

/** What stands there. */
interface Remote {
  readonly id: string;
  readonly link: string | null;
}

class TemplatePush {
  readonly #what: string;

  constructor(
    private readonly content: TemplateContent,
    private readonly tools: PushTools,
  ) {
    this.#what = content.name;
  }

  async run(): Promise<PushedTemplate> {
    const { message, edition } = this.content;
    const known = this.tools.memory.find({ destination: this.destination, message, edition });
    if (known === null || known.id === null) return this.create(known?.pending ?? null);
    return this.bringUpToDate({ ...known, id: known.id });
  }

  private get destination(): string {
    return this.tools.client.access.destination;
  }

  private get api(): PushTools['client']['access']['api'] {
    return this.tools.client.access.api;
  }

  /** A template that is on record. */
  private async bringUpToDate(known: Delivery & { readonly id: string }): Promise<PushedTemplate> {
    const { digest } = this.content;
    const looked = await this.readBack(known.id);
    if (looked.failed !== null) {
      if (this.isGone(looked.failed)) return this.remake(known);
      return this.failed([looked.failed.finding], known);
    }
    const there = looked.there;
    const isOurs =
      there === known.there ||
      known.there === null ||
      (known.pending !== null && this.holds(looked.taken, known.pending));
    if (!isOurs && !this.tools.isForced) {
      const isSame = known.sent === digest;
      const data = { what: this.#what, id: known.id };
      const told = this.tools.client.told(isSame ? 'push-differs-there' : 'push-changed-there', data);
      return { how: isSame ? 'unchanged' : 'failed', id: known.id, link: known.link, findings: [told] };
    }
    if (isOurs && known.sent === digest && known.pending === null)
      return { how: 'unchanged', id: known.id, link: known.link, findings: [] };
    // What was on its way when the push before this one ended has arrived.
    if (known.pending === digest && looked.taken !== null && this.holds(looked.taken, digest))
      return this.settle('found there', known);
    return this.update({ ...known, there: isOurs ? known.there : there });
  }

  private async update(known: Delivery & { readonly id: string }): Promise<PushedTemplate> {
    const { digest, source } = this.content;
    const begun = await this.tools.memory.keep({ ...known, pending: digest });
    if (begun !== null) return this.failed([begun], known);
    const taken = new Map([['id', known.id], ...(known.link === null ? [] : [['link', known.link] as const])]);
    const result = await this.tools.client.call({
      exchange: this.api.update,
      what: this.#what,
      values: new Map([...this.content.values, ...remoteValues(taken)]),
      files: this.content.files,
      isRepeatable: true,
    });
    if (result.kind === 'failed') {
      if (this.isGone(result)) return this.remake(known);
      // What was refused has not happened.
      const undone = result.mayHaveHappened ? null : await this.tools.memory.keep(known);
      return this.failed([result.finding, ...(undone === null ? [] : [undone])], known);
    }
    const { taken: answered } = takenOf(result.content, this.api.update, []);
    const link = answered?.get('link') ?? known.link;
    return this.settle('updated', { ...known, link, source });
  }

  /** The platform has it no more: whether it is made anew is for a person to say. */
  private async remake(known: Delivery): Promise<PushedTemplate> {
    if (!(await this.tools.makesAnew(this.#what)))
      return this.failed([this.tools.client.told('push-gone', { what: this.#what, id: known.id ?? '' })], known);
    return this.create(null);
  }

  /**
   * Makes a template, unless it is there.
   * @param pending the digest of what a push before this one may have made
   */
  private async create(pending: string | null): Promise<PushedTemplate> {
    const { message, edition, digest, source } = this.content;
    const blank: Delivery = {
      destination: this.destination,
      message,
      edition,
      id: null,
      link: null,
      sent: null,
      there: null,
      pending: digest,
      source,
    };
    let mayBeThere = pending;
    for (let round = 1; ; round += 1) {
      const looked = await this.lookUp(mayBeThere);
      if (looked.finding !== null) return this.failed([looked.finding], null);
      if (looked.remote !== null) return this.adopt({ ...blank, ...looked.remote }, looked.isSame);
      const begun = await this.tools.memory.keep(blank);
      if (begun !== null) return this.failed([begun], null);
      const result = await this.tools.client.call({
        exchange: this.api.create,
        what: this.#what,
        values: this.content.values,
        files: this.content.files,
        isRepeatable: false,
      });
      if (result.kind === 'answer') {
        const { taken } = takenOf(result.content, this.api.create, ['id']);
        const id = taken?.get('id');
        if (id !== undefined) return this.settle('created', { ...blank, id, link: taken?.get('link') ?? null });
        // It says that it was made, and not as what: it is looked up.
      } else if (!result.mayHaveHappened) {
        const undone = await this.forget(blank);
        return this.failed([result.finding, ...undone], null);
      }
      if (round >= ROUNDS)
        return this.failed(
          [
            result.kind === 'failed'
              ? result.finding
              : this.tools.client.oddAnswer(this.#what, 'it does not say what was made'),
          ],
          null,
        );
      mayBeThere = digest;
    }
  }

  /** What was refused has not happened: nothing is pending of it. */
  private async forget(blank: Delivery): Promise<Finding[]> {
    const problem = await this.tools.memory.drop(blank);
    return problem === null ? [] : [problem];
  }

  /** A template that was found there: that which a push before this one made, or one that is taken over. */
  private async adopt(delivery: Delivery & { readonly id: string }, isSame: boolean): Promise<PushedTemplate> {
    return isSame ? this.settle('found there', delivery) : this.update(delivery);
  }

  /** Looks for a template of this name. Whose it is shows by its digest, or by what the platform gives back of it. */
  private async lookUp(pending: string | null): Promise<{
    readonly remote: Remote | null;
    /** Whether it is what would be sent. */
    readonly isSame: boolean;
    readonly finding: Finding | null;
  }> {
    const { name, values, digest } = this.content;
    const search = { exchange: this.api.find, what: `the search for ${name}`, values, name };
    const { found, failed } = await searchFor(this.tools.client, search);
    const nothing = { remote: null, isSame: false };
    if (failed !== null) return { ...nothing, finding: failed.finding };
    const ours: { readonly taken: Taken; readonly sent: string | null }[] = [];
    for (const taken of found) {
      const looked = await this.ownedDigest(taken, [digest, ...(pending === null ? [] : [pending])]);
      if (looked.finding !== null) return { ...nothing, finding: looked.finding };
      // Where names are unique and none was there before, what is there now was made by that push.
      if (looked.digest !== null || (pending !== null && this.api.namesAreUnique))
        ours.push({ taken, sent: looked.digest });
    }
    const [own] = [...ours.filter(({ sent }) => sent === digest), ...ours];
    if (own !== undefined) return { remote: remoteOf(own.taken), isSame: own.sent === digest, finding: null };
    const [foreign] = found;
    if (foreign === undefined) return { ...nothing, finding: null };
    const remote = remoteOf(foreign);
    if (this.tools.isForced) return { remote, isSame: false, finding: null };
    if (pending !== null && !this.canCompare(foreign))
      return { ...nothing, finding: this.tools.client.told('push-unsettled', { what: name }) };
    return { ...nothing, finding: this.tools.client.told('push-name-taken', { what: name, id: remote.id }) };
  }

  private canCompare(found: Taken): boolean {
    return (
      found.has('digest') ||
      (this.api.read !== null && ('html' in this.api.read.take || 'digest' in this.api.read.take))
    );
  }

  /** Which of some digests a template that was found has; null where it has none of them. */
  private async ownedDigest(
    found: Taken,
    digests: readonly string[],
  ): Promise<{ readonly digest: string | null; readonly finding: Finding | null }> {
    const own = digests.find((digest) => this.holds(found, digest));
    if (own !== undefined) return { digest: own, finding: null };
    if (found.has('digest')) return { digest: null, finding: null };
    const { taken, failed } = await this.readBack(found.get('id') ?? '');
    if (failed !== null) return { digest: null, finding: this.isGone(failed) ? null : failed.finding };
    return { digest: digests.find((digest) => this.holds(taken, digest)) ?? null, finding: null };
  }

  /** Whether what was taken of a template is what has a digest: by the digest itself, or else by its HTML. */
  private holds(taken: Taken, digest: string): boolean {
    const marked = taken.get('digest');
    if (marked !== undefined && marked !== '') return marked.includes(digest);
    const html = taken.get('html');
    return digest === this.content.digest && html !== undefined && html === this.content.values.get('html');
  }

  /** What the platform gives back of a template. */
  private async readBack(
    id: string,
  ): Promise<
    | { readonly taken: Taken; readonly there: string | null; readonly failed: null }
    | { readonly taken: null; readonly there: null; readonly failed: Failed }
  > {
    const exchange = this.api.read;
    if (exchange === null) return { taken: new Map(), there: null, failed: null };
    const values = new Map([...this.content.values, ...remoteValues(new Map([['id', id]]))]);
    const what = `what is there of ${this.#what}`;
    const result = await this.tools.client.call({ exchange, what, values, isRepeatable: true });
    if (result.kind === 'failed') return { taken: null, there: null, failed: result };
    const { taken, problem } = takenOf(result.content, exchange, []);
    if (taken === null) {
      const odd = this.tools.client.oddAnswer(what, problem);
      return {
        taken: null,
        there: null,
        failed: { kind: 'failed', status: 200, mayHaveHappened: false, finding: odd },
      };
    }
    return { taken, there: this.tools.digestOf(canonicalJson(Object.fromEntries(taken))), failed: null };
  }

  /** Keeps what has arrived, with what the platform makes of it. */
  private async settle(
    how: PushedTemplate['how'],
    delivery: Delivery & { readonly id: string },
  ): Promise<PushedTemplate> {
    const { digest } = this.content;
    // Should the push end here, what is there is known by its number, and by what was sent.
    const arrived = await this.tools.memory.keep({ ...delivery, pending: digest });
    if (arrived !== null) return this.failed([arrived], delivery);
    const { there, failed } = await this.readBack(delivery.id);
    if (failed !== null) return this.failed([failed.finding], delivery);
    const kept = await this.tools.memory.keep({ ...delivery, sent: digest, there, pending: null });
    return kept === null ? { how, id: delivery.id, link: delivery.link, findings: [] } : this.failed([kept], delivery);
  }

  private isGone({ status }: Failed): boolean {
    return status !== null && this.api.gone.includes(status);
  }

  private failed(findings: readonly Finding[], known: Pick<Delivery, 'id' | 'link'> | null): PushedTemplate {
    return { how: 'failed', id: known?.id ?? null, link: known?.link ?? null, findings };
  }
}

function remoteOf(taken: Taken): Remote {
  return { id: taken.get('id') ?? '', link: taken.get('link') ?? null };
}

function remoteValues(taken: Taken): (readonly [string, string])[] {
  return [...taken].map(([name, value]) => [`remote.${name}`, value] as const);
}

/** The folder or category that templates go into, found or made. Null where the interface has none. */
export async function folderValues(
  client: PlatformClient,
  values: RequestValues,
): Promise<{ readonly values: RequestValues; readonly finding: Finding | null }> {
  const { folder } = client.access.api;
  if (folder === null) return { values: new Map(), finding: null };
  const settings = new Map([...values, ...client.access.settings]);
  const name = filledText(folder.name, settings);
  const named = new Map([...values, ['folder.name', name] as const]);
  const what = `the folder ${name}`;
  const all = (taken: Taken): RequestValues =>
    new Map([['folder.name', name], ...[...taken].map(([key, value]) => [`folder.${key}`, value] as const)]);
  for (let round = 1; ; round += 1) {
    const { found, failed } = await searchFor(client, {
      exchange: folder.find,
      what: `the search for ${what}`,
      values: named,
      name,
    });
    if (failed !== null) return { values: new Map(), finding: failed.finding };
    const [first] = found;
    if (first !== undefined) return { values: all(first), finding: null };
    const made = await client.call({ exchange: folder.create, what, values: named, isRepeatable: false });
    if (made.kind === 'answer') {
      const { taken, problem } = takenOf(made.content, folder.create, Object.keys(folder.create.take));
      if (taken !== null) return { values: all(taken), finding: null };
      if (round >= ROUNDS) return { values: new Map(), finding: client.oddAnswer(what, problem) };
    } else if (!made.mayHaveHappened || round >= ROUNDS) return { values: new Map(), finding: made.finding };
  }
}
