import { processIo } from './io/io.js';
import { run } from './run.js';

if (folderIsGone()) {
  process.stderr.write('The current folder does not exist any more: change to another, and try again.\n');
  process.exitCode = 2;
} else
  void run(process.argv.slice(2), processIo()).then((code) => {
    process.exitCode = code;
  });

/** A folder that was deleted while a shell stood in it. */
function folderIsGone(): boolean {
  try {
    return process.cwd() === '';
  } catch {
    return true;
  }
}
