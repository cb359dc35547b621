/** What stands in place of a secret. */
const MASK = '•••';

/** Shorter texts than this are hardly secrets, and stand everywhere. */
const LEAST = 3;

/** Takes secrets out of texts: as they are, percent-encoded, and in base64. */
export class SecretMask {
  readonly #hidden = new Set<string>();

  constructor(secrets: Iterable<string>) {
    for (const secret of secrets) this.add(secret);
  }

  add(secret: string): void {
    const forms = [secret, encodeURIComponent(secret), JSON.stringify(secret).slice(1, -1)];
    for (const form of [...forms, Buffer.from(secret).toString('base64')])
      if (form.length >= LEAST) this.#hidden.add(form);
  }

  masked(text: string): string {
    // The longest first: one may be a part of another.
    const hidden = [...this.#hidden].sort((a, b) => b.length - a.length);
    return hidden.reduce((masked, secret) => masked.replaceAll(secret, MASK), text);
  }
}
