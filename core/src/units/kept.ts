/** Results kept by all that they were worked out from, as text: whoever asks again with the same need not work them out anew. */
export class Kept<Result> {
  readonly #results = new Map<string, Result>();
  readonly #most: number;

  /** @param most how many are kept; the one that was not asked for longest goes first. */
  constructor(most: number) {
    this.#most = most;
  }

  /** What was worked out from the same, or what working it out gives. */
  of(from: string, make: () => Result): Result {
    const found = this.#results.get(from) ?? make();
    this.#results.delete(from);
    this.#results.set(from, found);
    if (this.#results.size > this.#most) this.#results.delete(this.#results.keys().next().value!);
    return found;
  }
}
