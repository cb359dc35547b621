/** A construct that a dialect lacks. */
export class Loss extends Error {
  constructor(
    readonly what: string,
    readonly advice = 'Say it without, or send it to a destination whose dialect can.',
  ) {
    super(what);
  }
}
