import { join, sep } from 'node:path';
import type { Finding } from '../core/findings/finding.js';
import { projectFolderOf, OUT_FOLDER } from '../project/files/project-folder.js';
import { ProjectIndex } from '../project/editor/project-index.js';
import { ProjectLooks } from '../project/editor/project-looks.js';
import { WorkerDesk } from '../project/editor/worker-desk.js';
import type { ProjectWatch } from '../project/watch/watch-project.js';

/** A project of which something is open. */
export interface OpenProject {
  readonly index: ProjectIndex;
  readonly looks: ProjectLooks;
  /** Null where the disk cannot be watched. */
  readonly watch: Promise<ProjectWatch | null>;
}

/** A place in an open document of a project. */
export interface Spot {
  readonly project: OpenProject;
  readonly path: string;
  readonly offset: number;
}

/** The documents that an editor has open, and the projects that they belong to. */
export class Workspace {
  /** What is typed and perhaps not saved, by full paths. */
  readonly texts = new Map<string, string>();
  readonly #projects = new Map<string, OpenProject>();
  /** The project of each open document; null for one that belongs to none. */
  readonly #owners = new Map<string, string | null>();
  readonly #found = new Map<string, readonly Finding[]>();
  readonly #desk = new WorkerDesk();

  /** @param tell is told what is wrong with a file of the project in a folder, whenever that is another than before */
  constructor(private readonly tell: (path: string, findings: readonly Finding[], folder: string) => void) {}

  /** Loads what findings are found with, before the first document is opened. */
  prepare(): void {
    this.#desk.prepare();
  }

  async open(path: string, text: string): Promise<void> {
    this.texts.set(path, text);
    await this.assign(path);
  }

  change(path: string, text: string): void {
    this.texts.set(path, text);
    const project = this.projectOf(path);
    project?.index.change([path]);
    project?.looks.change([path]);
  }

  /** What has no project may have got one with what is saved. */
  async saved(): Promise<void> {
    for (const [path, owner] of this.#owners) if (owner === null) await this.assign(path);
  }

  async close(path: string): Promise<void> {
    this.texts.delete(path);
    const project = this.projectOf(path);
    this.#owners.delete(path);
    if (project === null) return;
    project.index.change([path]);
    project.looks.closed(path);
    if (!project.looks.hasOpen()) await this.leave(project);
  }

  /** The project of an open document. */
  projectOf(path: string): OpenProject | null {
    const folder = this.#owners.get(path) ?? null;
    return folder === null ? null : (this.#projects.get(folder) ?? null);
  }

  /** What is wrong with a file, as it was told last. */
  found(path: string): readonly Finding[] {
    return this.#found.get(path) ?? [];
  }

  async end(): Promise<void> {
    await Promise.all([...this.#projects.values()].map((project) => this.leave(project)));
    await this.#desk.close();
  }

  private async assign(path: string): Promise<void> {
    const folder = await projectFolderOf(join(path, '..'));
    this.#owners.set(path, folder);
    if (folder === null) return;
    const project = this.#projects.get(folder) ?? this.enter(folder);
    project.index.change([path]);
    project.looks.opened(path);
  }

  private enter(folder: string): OpenProject {
    const index = new ProjectIndex(folder, this.texts);
    const looks = new ProjectLooks(folder, this.texts, this.#desk, (path, findings) => {
      this.#found.set(path, findings);
      this.tell(path, findings, folder);
    });
    const project = { index, looks, watch: this.watch(folder, index, looks).catch(() => null) };
    this.#projects.set(folder, project);
    return project;
  }

  /** What an editor has open counts as it is there, whatever is on the disk. */
  private async watch(folder: string, index: ProjectIndex, looks: ProjectLooks): Promise<ProjectWatch> {
    const { watchProject } = await import('../project/watch/watch-project.js');
    return watchProject(folder, join(folder, OUT_FOLDER), (paths) => {
      const elsewhere = paths.filter((path) => !this.texts.has(path));
      if (elsewhere.length > 0) {
        this.#desk.changeOnDisk(elsewhere);
        index.change(elsewhere);
        looks.change(elsewhere);
      }
      return Promise.resolve();
    });
  }

  private async leave({ index, looks, watch }: OpenProject): Promise<void> {
    this.#projects.delete(index.folder);
    looks.close();
    for (const path of [...this.#found.keys()].filter((known) => known.startsWith(index.folder + sep))) {
      this.#found.delete(path);
      this.tell(path, [], index.folder);
    }
    await (await watch)?.close();
  }
}
