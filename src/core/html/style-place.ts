/**
 * Follows the text of a style sheet loosely (CSS Syntax Level 3), so as to tell where in it a template tag stands: in a
 * selector, a value or a string, where letters may stand in its place, or between rules and declarations, where only white
 * space may.
 */
export class StylePlace {
  #quote = '';
  #inComment = false;
  #depth = 0;
  #startsStatement = true;

  /** Goes over text that stands before the next tag. */
  advance(text: string): void {
    for (let index = 0; index < text.length; index += 1) index += this.step(text[index] ?? '', text[index + 1] ?? '');
  }

  /** @returns how many more characters were read */
  private step(character: string, following: string): number {
    if (this.#inComment) {
      if (character !== '*' || following !== '/') return 0;
      this.#inComment = false;
      return 1;
    }
    if (this.#quote !== '') {
      if (character === '\\') return 1;
      if (character === this.#quote || character === '\n') this.#quote = '';
      return 0;
    }
    if (character === '/' && following === '*') {
      this.#inComment = true;
      return 1;
    }
    if (/\s/.test(character)) return 0;
    if (character === '{' || character === '}' || character === ';') {
      if (character !== ';' || this.#depth === 0) this.begin();
      return 0;
    }
    this.#startsStatement = false;
    if (character === '"' || character === "'") this.#quote = character;
    else if (character === '(' || character === '[') this.#depth += 1;
    else if (character === ')' || character === ']') this.#depth = Math.max(0, this.#depth - 1);
    else if (character === '\\') return 1;
    return 0;
  }

  private begin(): void {
    this.#startsStatement = true;
    this.#depth = 0;
  }

  /**
   * Whether the next tag stands within a selector, a property or a value. A tag that begins a statement does where it is
   * plainly the selector or the property itself.
   * @param following the text behind the tag
   */
  holdsValue(following: string): boolean {
    if (this.#inComment || this.#quote !== '' || !this.#startsStatement) return true;
    const isName = /^(?:\s*[{:,]|[\w\-.#[>+~])/.test(following);
    if (isName) this.#startsStatement = false;
    return isName;
  }
}
