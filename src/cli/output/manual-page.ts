import type { CommandTree } from '../io/command-tree.js';

/** The manual page of the program (section 1), in the notation of man(7). */
export function manualPage(tree: CommandTree, version: string): string {
  const { name, description, options, commands } = tree;
  return [
    `.TH ${name.toUpperCase()} 1 "" "${name} ${version}" "User Commands"`,
    '.SH NAME',
    `${name} \\- ${escaped(description)}`,
    '.SH SYNOPSIS',
    `.B ${name}`,
    '.I command',
    '[\\fIoption\\fR...] [\\fIargument\\fR...]',
    '.SH DESCRIPTION',
    ...paragraphs([
      'Ordinary HTML and CSS become responsive, table-based email with its plain text, in the dialects of sending platforms. A project is a folder with an inscriba.yaml; many commands need none.',
    ]),
    '.SH OPTIONS',
    ...options.flatMap(({ written, description: says }) => tagged(written, says)),
    '.SH COMMANDS',
    ...commands.flatMap((command) => commandLines(command, [name])),
    '.SH EXIT STATUS',
    ...exitCodes.flatMap(([code, says]) => tagged(code, says)),
    '',
  ].join('\n');
}

const exitCodes: readonly (readonly [string, string])[] = [
  ['0', 'Done.'],
  ['1', 'Done, with errors found in what was given.'],
  ['2', 'Wrong usage or configuration.'],
  ['3', 'A service outside failed.'],
  ['70', 'A defect of the program itself.'],
  ['130', 'Stopped.'],
];

function commandLines(command: CommandTree, path: readonly string[]): string[] {
  const words = [...path, command.name];
  if (command.commands.length > 0)
    return [
      `.SS ${escaped(words.join(' '))}`,
      ...paragraphs([command.description]),
      ...command.commands.flatMap((inner) => commandLines(inner, words)),
    ];
  const taken = command.arguments.map(({ written }) => written);
  return [
    `.SS ${escaped([...words, ...taken].join(' '))}`,
    ...paragraphs([command.description]),
    ...command.arguments.flatMap(({ written, description }) => tagged(written, description)),
    ...command.options.flatMap(({ written, description, choices }) =>
      tagged(written, choices.length === 0 ? description : `${description} (${choices.join(', ')})`),
    ),
  ];
}

function tagged(term: string, says: string): string[] {
  return ['.TP', `.B ${escaped(term)}`, escaped(says)];
}

function paragraphs(texts: readonly string[]): string[] {
  return texts.filter((text) => text !== '').flatMap((text) => ['.PP', escaped(text)]);
}

function hexadecimal(character: string): string {
  return (character.codePointAt(0) ?? 0).toString(16).toUpperCase().padStart(4, '0');
}

/** Text as man(7) prints it: hyphens that are minus signs, and no line that begins like a request. */
function escaped(text: string): string {
  return text
    .replace(/\\/g, '\\e')
    .replace(/-/g, '\\-')
    .replace(/^(?=[.'])/gm, '\\&')
    .replace(/"/g, '\\(dq')
    .replace(/[\u0080-\u{10ffff}]/gu, (character) => `\\[u${hexadecimal(character)}]`);
}
