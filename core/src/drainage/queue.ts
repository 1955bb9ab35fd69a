/** What has the least key comes out first; of equal keys, what went in first. */
export class Queue<T extends { readonly key: number }> {
  readonly #items: T[] = [];
  readonly #order: number[] = [];
  #count = 0;

  get size(): number {
    return this.#items.length;
  }

  add(item: T): void {
    let at = this.#items.length;
    const order = this.#count++;
    this.#items.push(item);
    this.#order.push(order);
    while (at > 0) {
      const up = (at - 1) >> 1;
      if (!this.#before(item, order, up)) break;
      this.#items[at] = this.#items[up]!;
      this.#order[at] = this.#order[up]!;
      at = up;
    }
    this.#items[at] = item;
    this.#order[at] = order;
  }

  take(): T | undefined {
    const first = this.#items[0];
    const last = this.#items.pop();
    const order = this.#order.pop()!;
    if (this.#items.length === 0 || last === undefined) return first;
    let at = 0;
    for (;;) {
      let down = 2 * at + 1;
      if (down >= this.#items.length) break;
      if (down + 1 < this.#items.length && this.#before(this.#items[down + 1]!, this.#order[down + 1]!, down)) down++;
      if (!this.#before(this.#items[down]!, this.#order[down]!, -1, last, order)) break;
      this.#items[at] = this.#items[down]!;
      this.#order[at] = this.#order[down]!;
      at = down;
    }
    this.#items[at] = last;
    this.#order[at] = order;
    return first;
  }

  #before(item: T, order: number, at: number, other = this.#items[at]!, otherOrder = this.#order[at]!): boolean {
    return item.key < other.key || (item.key === other.key && order < otherOrder);
  }
}
