interface Work {
  readonly key: string;
  readonly run: () => Promise<void>;
}

/** Work that is done one after the other, and what somebody waits for before the rest. */
export class WorkQueue {
  #waiting: Work[] = [];
  #isRunning = false;

  /** Puts work at the end. */
  add<T>(key: string, work: () => Promise<T>): Promise<T> {
    return new Promise((resolve, reject) => {
      this.#waiting.push({ key, run: () => work().then(resolve, reject) });
      // Whoever adds work may hurry it before any begins.
      queueMicrotask(() => void this.run());
    });
  }

  /** Puts work that waits before all other. */
  hurry(key: string): void {
    const wanted = this.#waiting.filter((work) => work.key === key);
    if (wanted.length > 0) this.#waiting = [...wanted, ...this.#waiting.filter((work) => work.key !== key)];
  }

  private async run(): Promise<void> {
    if (this.#isRunning) return;
    this.#isRunning = true;
    for (let work = this.#waiting.shift(); work !== undefined; work = this.#waiting.shift()) {
      await work.run();
      // Whoever asks in between is heard before the next begins.
      await new Promise((resolve) => setImmediate(resolve));
    }
    this.#isRunning = false;
  }
}
