import type { CommandDefinition } from '../io/command.js';

/** A command, by its line in the help. */
export interface CommandEntry {
  readonly name: string;
  readonly summary: string;
  /** Loads what it is and does: start-up time is felt at every call. */
  readonly load: () => Promise<CommandDefinition>;
}

/** Every command, in the order of the help. */
export const commands: readonly CommandEntry[] = [
  {
    name: 'new',
    summary: 'begin a project, a message or a part',
    load: async () => (await import('./new.js')).newCommands,
  },
  {
    name: 'list',
    summary: 'the messages of the project, whether they are built and pushed',
    load: async () => (await import('./list.js')).list,
  },
  {
    name: 'build',
    summary: 'compile messages to finished HTML, text and pictures',
    load: async () => (await import('./build/build.js')).build,
  },
  {
    name: 'check',
    summary: 'look for what is wrong in messages or finished HTML',
    load: async () => (await import('./check.js')).check,
  },
  {
    name: 'preview',
    summary: 'show messages side by side, as they will look, while you type',
    load: async () => (await import('./preview.js')).preview,
  },
  {
    name: 'compare',
    summary: 'what a change does to all messages',
    load: async () => (await import('./compare.js')).compare,
  },
  {
    name: 'prove',
    summary: 'compare messages with their sources in a browser',
    load: async () => (await import('./prove.js')).prove,
  },
  {
    name: 'pack',
    summary: 'build, and make the package that the platform imports',
    load: async () => (await import('./build/pack.js')).pack,
  },
  {
    name: 'push',
    summary: 'bring messages into the sending platform, again and again',
    load: async () => (await import('./push.js')).push,
  },
  {
    name: 'inline',
    summary: 'move styles from style sheets into style attributes',
    load: async () => (await import('./inline.js')).inline,
  },
  {
    name: 'text',
    summary: 'write the plain-text version of an HTML file',
    load: async () => (await import('./text.js')).plainTextOf,
  },
  {
    name: 'convert',
    summary: 'write the merge tags of finished HTML as another platform does',
    load: async () => (await import('./convert.js')).convert,
  },
  {
    name: 'images',
    summary: 'embed, host, bring home or lighten the pictures of finished HTML',
    load: async () => (await import('./images/images.js')).images,
  },
  {
    name: 'slice',
    summary: 'cut a drawn design into slices that are linked one by one',
    load: async () => (await import('./slice.js')).slice,
  },
  {
    name: 'adopt',
    summary: 'bring finished HTML from elsewhere into the project',
    load: async () => (await import('./adopt.js')).adopt,
  },
  {
    name: 'proof',
    summary: 'send test mails, filled with sample data',
    load: async () => (await import('./proof.js')).proof,
  },
  {
    name: 'draft',
    summary: 'make an unsent mail: a file, or in the drafts of a mailbox',
    load: async () => (await import('./draft.js')).draft,
  },
  {
    name: 'copy',
    summary: 'put a piece of a message on the clipboard',
    load: async () => (await import('./copy.js')).copy,
  },
  {
    name: 'dialect',
    summary: 'what platforms can say, and whether a dialect file is right',
    load: async () => (await import('./dialect.js')).dialect,
  },
  {
    name: 'standin',
    summary: 'simulated platforms, image host and mailbox, to try things on',
    load: async () => (await import('./standin.js')).standin,
  },
  {
    name: 'language-server',
    summary: 'findings, completion and answers in your editor, while you type',
    load: async () => (await import('./language-server.js')).languageServer,
  },
  {
    name: 'completion',
    summary: 'a script by which your shell completes commands and options',
    load: async () => (await import('./completion.js')).completion,
  },
  {
    name: 'demo',
    summary: 'the whole road on the sample project',
    load: async () => (await import('./demo.js')).demo,
  },
];
