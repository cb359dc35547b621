import { basename, extname } from 'node:path';
import { parentPort } from 'node:worker_threads';
import { plainFindings } from '../../core/findings/plain-findings.js';
import { checkBench, type CheckBench } from '../check/check-bench.js';
import { loadConfig } from '../config/config.js';
import { CONFIG_FILE } from '../files/project-folder.js';
import type { ReadBytes } from '../files/read-bytes.js';
import { chooseTargets, readPartNames, type VisitPlan } from '../visit/choose-messages.js';
import { withPicturesHere } from '../visit/pictures-here.js';
import { EditorFiles } from './editor-files.js';
import type { EditorAnswer, EditorTask } from './editor-tasks.js';
import { lookAtFile } from './look-at-file.js';
import { lookAtMessage } from './look-at-message.js';

/** What messages of a project are looked at with, as long as nothing changes that concerns them all. */
interface Desk {
  readonly state: number;
  /** Null where the project itself is wrong. */
  readonly plan: VisitPlan | null;
}

const port = parentPort;
if (port !== null) {
  const files = new EditorFiles();
  const desks = new Map<string, Desk>();
  const bench = checkBench(null, () => undefined);
  let before: Promise<unknown> = Promise.resolve();
  port.on('message', (task: EditorTask) => {
    // What fails here ends the worker, and whoever gave the task hears of it.
    before = before.then(async () => port.postMessage(await work(task, files, desks, await bench)));
  });
}

async function work(
  { number, kind, path, folder, state, texts, changed }: EditorTask,
  files: EditorFiles,
  desks: Map<string, Desk>,
  bench: CheckBench | null,
): Promise<EditorAnswer> {
  files.change(texts, changed);
  const { read } = files;
  const known = desks.get(folder);
  const desk = known?.state === state ? known : { state, plan: await planOf(folder, read) };
  desks.set(folder, desk);
  if (kind === 'file' || desk.plan === null || bench === null) {
    const findings = await lookAtFile(path, folder, read);
    return { number, findings: plainFindings(findings), inputs: [path] };
  }
  const file = { name: basename(path, extname(path)), path };
  const { findings, inputs } = await lookAtMessage({ ...desk.plan, read }, file, bench);
  return { number, findings: plainFindings(findings), inputs: [...inputs.keys()] };
}

/** What is wrong with the project is told of its own files. */
async function planOf(folder: string, read: ReadBytes): Promise<VisitPlan | null> {
  const { config } = await loadConfig(folder, CONFIG_FILE, read);
  if (config === null) return null;
  const ours = withPicturesHere(config);
  const targets = await chooseTargets({ config: ours, messages: [], destinations: [], read }, () => undefined);
  return { config: ours, messages: [], targets, partNames: await readPartNames(folder, () => undefined), read };
}
