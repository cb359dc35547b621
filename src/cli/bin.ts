import { processIo } from './io/io.js';
import { run } from './run.js';

/** The exit code of what stays until it is stopped. */
const STOPPED = 130;

if (folderIsGone()) {
  process.stderr.write('The current folder does not exist any more: change to another, and try again.\n');
  process.exitCode = 2;
} else
  void run(process.argv.slice(2), processIo()).then((code) => {
    process.exitCode = code;
    // A folder that goes away while it is let go is watched on, and would keep the process.
    if (code === STOPPED) process.exit();
  });

/** A folder that was deleted while a shell stood in it. */
function folderIsGone(): boolean {
  try {
    return process.cwd() === '';
  } catch {
    return true;
  }
}
