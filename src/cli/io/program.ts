import { Command } from 'commander';
import { ownVersion } from '../../project/files/own-files.js';

/** The program without its commands: its name, and the options that all of them share. */
export function bareProgram(): Command {
  return new Command('inscriba')
    .description('Ordinary HTML and CSS in; responsive, table-based email, ready to import, out.')
    .version(ownVersion(), '--version', 'print the version')
    .helpOption('-h, --help', 'print help')
    .option('--quiet', 'print findings only, no summaries')
    .option('--no-color', 'print without colours');
}
