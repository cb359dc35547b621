import { mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** A template that a simulated platform keeps. */
export interface StoredTemplate {
  readonly id: string;
  readonly name: string;
  readonly subject: string;
  readonly html: string;
  readonly text: string;
  /** The style sheet, where the platform keeps it apart. */
  readonly css: string;
  /** The number of the folder or category that it lies in. */
  readonly folder: string | null;
  /** What else was sent, by the platform's own names. */
  readonly details: Readonly<Record<string, unknown>>;
  /** Its own pictures: their numbers, by their paths. */
  readonly pictures: Readonly<Record<string, string>>;
  readonly version: number;
  /** In milliseconds since 1970. */
  readonly changed: number;
}

/** A picture that a simulated platform keeps. */
export interface KeptPicture {
  readonly id: string;
  readonly name: string;
  readonly type: string;
}

interface KeptState {
  next: number;
  templates: StoredTemplate[];
  pictures: KeptPicture[];
  folders: { readonly id: string; readonly name: string }[];
}

/** What a simulated platform keeps: in memory, and in a folder where it has one, written before it answers. */
export class PlatformState {
  readonly #kept: KeptState;
  readonly #bytes = new Map<string, Uint8Array>();

  /** @param folder null where nothing outlives the process */
  constructor(private readonly folder: string | null) {
    this.#kept = this.read() ?? { next: 1, templates: [], pictures: [], folders: [] };
  }

  get templates(): readonly StoredTemplate[] {
    return this.#kept.templates;
  }

  get pictures(): readonly KeptPicture[] {
    return this.#kept.pictures;
  }

  get folders(): readonly { readonly id: string; readonly name: string }[] {
    return this.#kept.folders;
  }

  template(id: string): StoredTemplate | null {
    return this.#kept.templates.find((template) => template.id === id) ?? null;
  }

  /** Puts a template there, new or in place of the one with its number. */
  put(template: Omit<StoredTemplate, 'version' | 'changed'>, now: number): StoredTemplate {
    const before = this.template(template.id);
    const stored = { ...template, version: (before?.version ?? 0) + 1, changed: now };
    this.#kept.templates = [...this.#kept.templates.filter(({ id }) => id !== template.id), stored];
    this.write();
    return stored;
  }

  remove(id: string): void {
    this.#kept.templates = this.#kept.templates.filter((template) => template.id !== id);
    this.write();
  }

  addPicture(name: string, type: string, bytes: Uint8Array): KeptPicture {
    const picture = { id: this.newId(), name, type };
    this.#bytes.set(picture.id, bytes);
    if (this.folder !== null) {
      mkdirSync(join(this.folder, 'pictures'), { recursive: true });
      writeFileSync(join(this.folder, 'pictures', picture.id), bytes);
    }
    this.#kept.pictures.push(picture);
    this.write();
    return picture;
  }

  pictureBytes(id: string): Uint8Array | null {
    const known = this.#bytes.get(id);
    if (known !== undefined || this.folder === null || !/^\d+$/.test(id)) return known ?? null;
    try {
      return readFileSync(join(this.folder, 'pictures', id));
    } catch {
      return null;
    }
  }

  addFolder(name: string): { readonly id: string; readonly name: string } {
    const made = { id: this.newId(), name };
    this.#kept.folders.push(made);
    this.write();
    return made;
  }

  newId(): string {
    const id = String(this.#kept.next);
    this.#kept.next += 1;
    return id;
  }

  private read(): KeptState | null {
    if (this.folder === null) return null;
    try {
      return JSON.parse(readFileSync(join(this.folder, 'state.json'), 'utf8')) as KeptState;
    } catch {
      return null;
    }
  }

  private write(): void {
    if (this.folder === null) return;
    mkdirSync(this.folder, { recursive: true });
    const path = join(this.folder, 'state.json');
    writeFileSync(`${path}.part`, `${JSON.stringify(this.#kept, null, 2)}\n`);
    renameSync(`${path}.part`, path);
  }
}
