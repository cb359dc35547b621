import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020.js';
import { parse } from 'yaml';
import { AnswerBytes } from '../../src/standins/platforms/platform.js';
import type { SeenExchange } from '../../src/standins/platforms/platform-server.js';
import { repository } from './project.js';

interface MediaTypes {
  readonly [type: string]: { readonly schema?: object };
}

interface Operation {
  readonly parameters?: readonly { readonly name: string; readonly in: string; readonly required: boolean }[];
  readonly requestBody?: { readonly content: MediaTypes };
  readonly responses: Readonly<Record<string, { readonly $ref?: string; readonly content?: MediaTypes }>>;
}

interface Documentation {
  readonly paths: Readonly<Record<string, Readonly<Record<string, Operation>>>>;
  readonly components: Readonly<Record<string, unknown>>;
}

/** The documentation of a simulated platform, to hold what goes over the wire against it. */
export class OpenApi {
  readonly #documentation: Documentation;
  readonly #ajv = new Ajv2020({ strict: false, allErrors: true, validateFormats: false });
  readonly #compiled = new Map<object, ValidateFunction>();

  constructor(name: string) {
    this.#documentation = parse(readFileSync(join(repository, 'standins', `${name}.yaml`), 'utf8')) as Documentation;
  }

  /** What of an exchange is not as the documentation says, in words. */
  problems({ method, path, request, answer }: SeenExchange): string[] {
    const url = new URL(path, 'http://host');
    const operation = this.operation(method, url.pathname);
    const at = `${method} ${url.pathname}`;
    if (operation === null) return answer.status === 404 ? [] : [`${at} is not documented`];
    const known = (operation.parameters ?? []).filter((parameter) => parameter.in === 'query').map(({ name }) => name);
    const problems = [...url.searchParams.keys()]
      .filter((name) => !known.includes(name))
      .map((name) => `${at}?${name}`);
    const { body } = request;
    if (body.bytes.length > 0) {
      const content = operation.requestBody?.content ?? {};
      const media = content[body.type] ?? content[body.type.replace(/\/.*$/, '/*')];
      if (media === undefined) problems.push(`${at} takes no ${body.type}`);
      else problems.push(...this.invalid(media.schema, valueOf(request), `${at} asks`, answer.status < 400));
    }
    const response = operation.responses[String(answer.status)];
    if (response === undefined) return [...problems, `${at} answers ${answer.status}`];
    const { content } = this.resolved(response);
    if (answer.content instanceof AnswerBytes || answer.content === null) return problems;
    return [...problems, ...this.invalid(content?.['application/json']?.schema, answer.content, `${at} answers`, true)];
  }

  private resolved(response: Operation['responses'][string]): { readonly content?: MediaTypes } {
    if (response.$ref === undefined) return response;
    const [, , group = '', name = ''] = response.$ref.split('/');
    return (this.#documentation.components[group] as Record<string, { content?: MediaTypes }>)[name] ?? {};
  }

  private operation(method: string, path: string): Operation | null {
    for (const [pattern, operations] of Object.entries(this.#documentation.paths)) {
      const form = new RegExp(`^${pattern.replace(/\{[^}]+\}/g, '[^/]+')}$`);
      const operation = form.test(path) ? operations[method.toLowerCase()] : undefined;
      if (operation !== undefined) return operation;
    }
    return null;
  }

  private invalid(schema: object | undefined, value: unknown, at: string, isMeant: boolean): string[] {
    if (schema === undefined) return [`${at} with content`];
    // What was refused may be wrong.
    if (!isMeant) return [];
    let validate = this.#compiled.get(schema);
    if (validate === undefined) {
      validate = this.#ajv.compile({ ...schema, components: this.#documentation.components });
      this.#compiled.set(schema, validate);
    }
    return validate(value)
      ? []
      : (validate.errors ?? []).map((error) => `${at}: ${error.instancePath} ${error.message ?? ''}`);
  }
}

/** The content of a request as a schema sees it: JSON, a group of fields and files, or bytes. */
function valueOf({ body }: SeenExchange['request']): unknown {
  if (body.json !== null) return body.json;
  if (!/^(?:multipart|application\/x-www)/.test(body.type)) return 'bytes';
  const files = [...body.files].map(([name, given]) => [name, given.map((file) => file.name)] as const);
  return Object.fromEntries(
    [...body.fields, ...files].map(([name, given]) => [name, given.length === 1 ? given[0] : given]),
  );
}
