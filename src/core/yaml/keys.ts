import Joi from 'joi';

declare const held: unique symbol;

/**
 * What may stand under a key of a YAML file, and the type of what it gives. A key is declared once: its check, its default,
 * its type, its JSON Schema and its line in the reference come from that.
 */
export type Key<T> = Joi.Schema & { readonly [held]: T };

/** The type of what a key gives. */
export type Held<K> = K extends { readonly [held]: infer T } ? T : never;

/** The keys of a group, by their names. */
export type Keys = Readonly<Record<string, Key<unknown>>>;

/** What a group of keys gives. */
export type Group<K extends Keys> = { readonly [N in keyof K]: Held<K[N]> };

// The type of what a key gives exists for the compiler alone.
const made = <T>(schema: Joi.Schema): Key<T> => schema as Key<T>;

/** A text; undefined where it is not there, as all keys are that are not needed and have no usual value. */
export const text = (): Key<string | undefined> => made(Joi.string());

/** A text of so many characters. */
export const characters = (count: number): Key<string | undefined> => made(Joi.string().length(count));

/** A text of some form; `what` stands in findings for a text of another form. */
export function textLike(form: RegExp, what?: string): Key<string | undefined> {
  return made(what === undefined ? Joi.string().pattern(form) : Joi.string().pattern(form, what));
}

/** A text that may be empty, or nothing at all. */
export const textOrNothing = (): Key<string | null | undefined> => made(Joi.string().allow('', null));

/** A mail address. Servers that take other characters than those of ASCII in one are rare, and mail to it is lost elsewhere. */
export const mailAddress = (): Key<string | undefined> =>
  made(Joi.string().email({ tlds: false, allowUnicode: false }));

/**
 * The address of something, by one of some schemes, in the characters of RFC 3986. Joi's own rule for addresses is one pattern
 * of the whole grammar, whose compilation takes a third of the time in which a command starts.
 */
export function address(...schemes: string[]): Key<string | undefined> {
  const form = new RegExp(String.raw`^(?:${schemes.join('|')}):(?:[\w.~:/?#[\]@!$&'()*+,;=-]|%[\da-f]{2})+$`, 'i');
  const name = `an address, in plain letters, that begins with ${schemes.map((scheme) => `${scheme}:`).join(' or ')}`;
  return made(Joi.string().pattern(form, name).meta({ format: 'uri' }));
}

/** One of some words. */
export const oneOf = <const T extends string>(...words: readonly T[]): Key<T | undefined> =>
  made(Joi.string().valid(...words));

/** A number within bounds. */
export const number = (least: number, most: number): Key<number | undefined> => made(Joi.number().min(least).max(most));

/** A whole number, within bounds where there are any. */
export function whole(least?: number, most?: number): Key<number | undefined> {
  const from = least === undefined ? Joi.number().integer() : Joi.number().integer().min(least);
  return made(most === undefined ? from : from.max(most));
}

/** Any number. */
export const anyNumber = (): Key<number | undefined> => made(Joi.number());

/** True or false. */
export const flag = (): Key<boolean | undefined> => made(Joi.boolean());

/** Anything at all. */
export const anything = (): Key<unknown> => made(Joi.any());

/** A list; with at least so many entries. */
export function list<T>(entry: Key<T>, least = 0): Key<readonly Exclude<T, undefined>[] | undefined> {
  const schema = Joi.array().items(entry);
  return made(least === 0 ? schema : schema.min(least));
}

/** A group of keys. */
export const group = <K extends Keys>(keys: K): Key<Group<K> | undefined> => made(Joi.object(keys));

/** A group with the same under each of some names; empty where it is not there. */
export function each<T>(names: readonly string[], entry: Key<T>): Key<Readonly<Record<string, Exclude<T, undefined>>>> {
  return made(Joi.object(Object.fromEntries(names.map((name) => [name, entry]))).default({}));
}

/** A group of which exactly one key is there. */
export function oneKeyOf<K extends Keys>(keys: K): Key<OneOf<K> | undefined> {
  return made(Joi.object(keys).xor(...Object.keys(keys)));
}

type OneOf<K extends Keys> = { [N in keyof K]: { readonly [M in N]: Exclude<Held<K[M]>, undefined> } }[keyof K];

/** A group in which either both of two keys are there or none of them. */
export const together = <T>(key: Key<T>, first: string, second: string): Key<T> =>
  made((key as unknown as Joi.ObjectSchema).and(first, second));

/** A group under names that the author chooses, beside keys of its own. */
export function named<T>(
  names: RegExp | null,
  entry: Key<T>,
  keys: Keys = {},
): Key<Readonly<Record<string, Exclude<T, undefined>>> | undefined> {
  const own = Object.keys(keys).length === 0 ? Joi.object() : Joi.object(keys);
  return made(own.pattern(names ?? Joi.string(), entry));
}

/** Any group at all. */
export const anyGroup = (): Key<Readonly<Record<string, unknown>> | undefined> => made(Joi.object());

/** One of several kinds. */
export const either = <const K extends readonly Key<unknown>[]>(...kinds: K): Key<Held<K[number]>> =>
  made(Joi.alternatives(...kinds));

/** What may also be left empty. */
export const orNothing = <T>(key: Key<T>): Key<T | null> => made(key.allow(null));

/** A key that counts only where another has a value. */
export const onlyWhere = <T>(other: string, is: string, key: Key<T>): Key<T> =>
  made(Joi.when(other, { is, then: key, otherwise: Joi.forbidden() }));

/** A key that has to be there. */
export const needed = <T>(key: Key<T>): Key<Exclude<T, undefined>> => made(key.required());

/** A key with what it is where it is not there; `{}` for a group without its keys. */
export function usually<T>(key: Key<T>, value: null): Key<Exclude<T, undefined> | null>;
export function usually<T>(
  key: Key<T>,
  value: Exclude<T, undefined> | Readonly<Record<string, never>>,
): Key<Exclude<T, undefined>>;
export function usually(key: Key<unknown>, value: object | string | number | boolean | null): Key<unknown> {
  return made(key.default(value));
}

/** A group that is there with its own usual values where it is not written. */
export const usuallyThere = <T>(key: Key<T>): Key<Exclude<T, undefined>> => made(key.default());

/** What a key is for, as editors and the reference say it. */
export const about = <T>(description: string, key: Key<T>): Key<T> => made(key.description(description));
