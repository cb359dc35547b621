import { join } from 'node:path';
import type { Finding } from '../../core/findings/finding.js';
import type { Part } from '../../core/template/nodes.js';
import { readPart } from '../../core/template/read-part.js';
import { configSchema } from '../config/config-schema.js';
import { jsonSchema } from '../../core/yaml/json-schema.js';
import { htmlNames, isPartName } from '../load/message-names.js';
import { readTextFile } from '../files/text-file.js';
import { writeWhole } from '../files/write-file.js';
import { isFolder } from '../files/exists.js';

/** The folder of a project that holds what editors read. */
export const EDITOR_FOLDER = '.inscriba';

/** The JSON Schema of `inscriba.yaml`, in the editor folder. */
export const SCHEMA_FILE = 'config.schema.json';

/** The project's elements and attributes as HTML custom data, in the editor folder. */
export const ELEMENTS_FILE = 'elements.html-data.json';

/** Writes what editors need to complete keys of `inscriba.yaml`, parts, their values, and attributes of regions. */
export async function writeEditorFiles(projectFolder: string): Promise<Finding[]> {
  const folder = join(projectFolder, EDITOR_FOLDER);
  const files: readonly (readonly [string, object])[] = [
    [SCHEMA_FILE, jsonSchema(configSchema, 'inscriba.yaml')],
    [ELEMENTS_FILE, customData(await readParts(projectFolder))],
  ];
  const findings: Finding[] = [];
  for (const [name, content] of files) {
    const path = join(folder, name);
    const problem = await writeWhole(path, `${JSON.stringify(content, null, 2)}\n`);
    if (problem !== null) findings.push(problem);
  }
  return findings;
}

/** Brings the editor files up to date, where the project has them. */
export async function refreshEditorFiles(projectFolder: string): Promise<Finding[]> {
  return (await isFolder(join(projectFolder, EDITOR_FOLDER))) ? writeEditorFiles(projectFolder) : [];
}

async function readParts(projectFolder: string): Promise<Part[]> {
  const parts: Part[] = [];
  for (const name of (await htmlNames(projectFolder, 'parts')).filter(isPartName)) {
    const file = await readTextFile(join(projectFolder, 'parts', `${name}.html`), name, () => undefined);
    // What is wrong with a part is said where a message uses it.
    const part = file === null ? null : readPart(file.source, name, () => undefined);
    if (part !== null) parts.push(part);
  }
  return parts;
}

/** HTML custom data, version 1.1, as editors read them. */
function customData(parts: readonly Part[]): object {
  return {
    version: 1.1,
    tags: [
      ...parts.map((part) => ({
        name: part.tag,
        description: describePart(part),
        attributes: part.accepts.map(({ name, fallback }) => ({
          name,
          description: fallback === null ? 'needed' : `default: "${fallback}"`,
        })),
      })),
      {
        name: 'template',
        description: 'Content that is repeated, chosen, or kept for one version of the message.',
        attributes: [
          { name: 'each', description: 'repeats: each="item of list"' },
          { name: 'if', description: 'keeps the content where the condition holds' },
          { name: 'else', description: 'follows a template with if or each', valueSet: 'v' },
          {
            name: 'for',
            description: 'keeps the content for one version',
            values: [{ name: 'word' }, { name: 'html' }, { name: 'text' }],
          },
        ],
      },
    ],
    globalAttributes: [
      { name: 'region', description: 'makes the element editable on the platform, under this name' },
      {
        name: 'region-kind',
        description: 'what users edit in the region',
        values: ['text', 'rich', 'image', 'link', 'block'].map((name) => ({ name })),
      },
      { name: 'region-repeat', description: 'lets users duplicate the region', valueSet: 'v' },
      { name: 'region-choice', description: 'regions of the same choice are alternatives' },
      { name: 'region-label', description: 'what users see as the name of the region' },
      { name: 'slices', description: 'cuts a picture as this plan says (a .slices.yaml file)' },
      { name: 'slices-link', description: 'where slices lead that say something and have no link of their own' },
      {
        name: 'data-text',
        description: 'what the plain-text version says in place of the content; empty leaves it out',
      },
      { name: 'data-raw', description: 'switches layout off within the element', valueSet: 'v' },
    ],
  };
}

function describePart({ tag, template }: Part): string {
  const slots = template.slots.filter((slot) => slot !== '').map((slot) => `slot="${slot}"`);
  const takes = template.slots.includes('') ? ['content', ...slots] : slots;
  return `The part parts/${tag}.html${takes.length === 0 ? '' : `. It takes ${takes.join(', ')}`}.`;
}
