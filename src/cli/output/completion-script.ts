import type { CommandTree, TreeOption } from '../io/command-tree.js';

/** The shells that completion scripts are made for. */
export const shells = ['bash', 'zsh', 'fish'] as const;

export type Shell = (typeof shells)[number];

/** A script by which a shell completes commands, their options, and the words that these take; else it completes names of files. */
export function completionScript(tree: CommandTree, shell: Shell): string {
  return { bash: bashScript, zsh: zshScript, fish: fishScript }[shell](tree);
}

/** A command with the words that lead to it. */
interface Reached {
  readonly path: readonly string[];
  readonly command: CommandTree;
}

function allCommands(tree: CommandTree, path: readonly string[] = []): Reached[] {
  return [
    { path, command: tree },
    ...tree.commands.flatMap((command) => allCommands(command, [...path, command.name])),
  ];
}

/** What may come next behind a command: those under it, the words that it takes, its options. */
function wordsOf({ commands, options, arguments: taken }: CommandTree): string[] {
  return [
    ...commands.map(({ name }) => name),
    ...taken.flatMap(({ choices }) => choices),
    ...options.flatMap(({ names }) => names),
  ];
}

function withChoices({ options }: CommandTree): TreeOption[] {
  return options.filter(({ choices }) => choices.length > 0);
}

function bashScript(tree: CommandTree): string {
  const reached = allCommands(tree);
  const words = reached.map(({ path, command }) => `    '${path.join(' ')}') words='${wordsOf(command).join(' ')}' ;;`);
  const groups = reached.filter(({ command }) => command.commands.length > 0);
  const steps = groups.flatMap(({ path, command }) =>
    command.commands.map(({ name }) => `      '${[...path, name].join(' ')}') path='${[...path, name].join(' ')}' ;;`),
  );
  const values = reached.flatMap(({ path, command }) =>
    withChoices(command).flatMap(({ names, choices }) =>
      names.map((name) => `    '${[...path, name].join(' ')}') words='${choices.join(' ')}' ;;`),
    ),
  );
  return `# Completion of ${tree.name} for bash: source <(${tree.name} completion bash)
_${tree.name}() {
  local current="\${COMP_WORDS[COMP_CWORD]}" before="\${COMP_WORDS[COMP_CWORD-1]}" path='' words='' index
  COMPREPLY=()
  for ((index = 1; index < COMP_CWORD; index += 1)); do
    case "\${path:+$path }\${COMP_WORDS[index]}" in
${steps.join('\n')}
    esac
  done
  case "$path" in
${words.join('\n')}
  esac
  case "\${path:+$path }$before" in
${values.join('\n')}
  esac
  COMPREPLY=($(compgen -W "$words" -- "$current"))
  # Where no word fits, files may.
  [[ \${#COMPREPLY[@]} -gt 0 ]] || compopt -o default 2>/dev/null
}
complete -F _${tree.name} ${tree.name}
`;
}

function zshScript(tree: CommandTree): string {
  const reached = allCommands(tree);
  const cases = reached.map(({ path, command }) => {
    const described = [
      ...command.commands.map(({ name, summary, description }) => describedWord(name, summary || description)),
      ...command.arguments.flatMap(({ choices, description }) =>
        choices.map((word) => describedWord(word, description)),
      ),
      ...command.options.flatMap(({ names, description }) => names.map((name) => describedWord(name, description))),
    ];
    return `    '${path.join(' ')}') words_=(${described.join(' ')}) ;;`;
  });
  const steps = reached
    .filter(({ path }) => path.length > 0)
    .map(({ path }) => `      '${path.join(' ')}') place='${path.join(' ')}' ;;`);
  const values = reached.flatMap(({ path, command }) =>
    withChoices(command).flatMap(({ names, choices }) =>
      names.map(
        (name) => `    '${[...path, name].join(' ')}') words_=(${choices.map((word) => `'${word}'`).join(' ')}) ;;`,
      ),
    ),
  );
  return `#compdef ${tree.name}
# Completion of ${tree.name} for zsh: source <(${tree.name} completion zsh), behind compinit
_${tree.name}() {
  local place='' index
  local -a words_
  for ((index = 2; index < CURRENT; index += 1)); do
    case "\${place:+$place }\${words[index]}" in
${steps.join('\n')}
    esac
  done
  case "$place" in
${cases.join('\n')}
  esac
  case "\${place:+$place }\${words[CURRENT-1]}" in
${values.join('\n')}
  esac
  _describe '${tree.name}' words_ || _files
}
compdef _${tree.name} ${tree.name}
`;
}

/** A word with what it means, as zsh describes it. */
function describedWord(word: string, says: string): string {
  return `'${word.replace(/:/g, '\\:')}:${quoted(says)}'`;
}

function quoted(text: string): string {
  return text.replace(/'/g, `'\\''`);
}

function fishScript(tree: CommandTree): string {
  const lines = allCommands(tree).flatMap(({ path, command }) => {
    const condition = conditionOf(path, command);
    const line = (rest: string): string => `complete -c ${tree.name} -n '${condition}' ${rest}`;
    const inner = command.commands.map(({ name, summary, description }) =>
      line(`-a ${name} -d '${fishQuoted(summary || description)}'`),
    );
    const words = command.arguments.flatMap(({ choices, description }) =>
      choices.map((word) => line(`-a ${word} -d '${fishQuoted(description)}'`)),
    );
    const options = command.options.map(({ names, description, takesValue, choices }) => {
      const long = names.find((name) => name.startsWith('--'))?.slice(2);
      const short = names.find((name) => /^-[^-]/.test(name))?.slice(1);
      const taken = choices.length > 0 ? ` -x -a '${choices.join(' ')}'` : takesValue ? ' -r' : '';
      const written = [long === undefined ? '' : `-l ${long}`, short === undefined ? '' : `-s ${short}`];
      return line(`${written.filter((part) => part !== '').join(' ')}${taken} -d '${fishQuoted(description)}'`);
    });
    return [...inner, ...words, ...options];
  });
  return `# Completion of ${tree.name} for fish: ${tree.name} completion fish | source\n${lines.join('\n')}\n`;
}

/** When a line of fish holds: behind the words that lead to a command, and before any of those under it. */
function conditionOf(path: readonly string[], { commands }: CommandTree): string {
  const inner = commands.map(({ name }) => name).join(' ');
  if (path.length === 0) return `not __fish_seen_subcommand_from ${inner}`;
  const seen = path.map((word) => `__fish_seen_subcommand_from ${word}`).join('; and ');
  return inner === '' ? seen : `${seen}; and not __fish_seen_subcommand_from ${inner}`;
}

function fishQuoted(text: string): string {
  return text.replace(/[\\']/g, '\\$&');
}
