import { packageShapes } from '../../../core/dialects/package-shapes.js';
import { command, oneOf } from '../../io/command.js';
import { buildOptions, buildTask, messagesArgument } from './build.js';

/** `pack`. */
export const pack = command({
  name: 'pack',
  description:
    'Builds messages and packs each for import: HTML, text, pictures, manifest, and a card that says what to paste where.',
  arguments: { messages: messagesArgument },
  options: {
    to: buildOptions.to,
    shape: oneOf(
      packageShapes,
      '--shape <shape>',
      'how it is packed: a zip, a folder, style sheet and body apart, one file of HTML, or a mail (default: as the dialect says)',
    ),
    out: buildOptions.out,
    fresh: buildOptions.fresh,
  },
  examples: ['inscriba pack may-newsletter --to members', 'inscriba pack repair-day --to archive --shape eml'],
  run: ({ shape, ...told }, io) => buildTask({ ...told, pack: { shape }, watch: false }, io),
});
