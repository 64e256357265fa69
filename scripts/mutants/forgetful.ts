/** Counts up when everything is to be forgotten. */
let turn = 0;

/** Has all forgetful maps forget what they hold. */
export const forgetAll = (): void => {
  turn += 1;
};

/** What a map holds, until everything is forgotten. */
class Held<Kind> {
  private turn = turn;
  private kept: Kind;
  constructor(private readonly make: () => Kind) {
    this.kept = make();
  }
  get now(): Kind {
    if (this.turn !== turn) [this.turn, this.kept] = [turn, this.make()];
    return this.kept;
  }
}

/** A weak map that forgets. */
export class ForgetfulWeakMap {
  private readonly held = new Held(() => new WeakMap<object, unknown>());
  get(key: object): unknown {
    return this.held.now.get(key);
  }
  has(key: object): boolean {
    return this.held.now.has(key);
  }
  set(key: object, value: unknown): this {
    this.held.now.set(key, value);
    return this;
  }
  delete(key: object): boolean {
    return this.held.now.delete(key);
  }
}

/** A map that forgets. */
export class ForgetfulMap {
  private readonly held = new Held(() => new Map<unknown, unknown>());
  get size(): number {
    return this.held.now.size;
  }
  get(key: unknown): unknown {
    return this.held.now.get(key);
  }
  has(key: unknown): boolean {
    return this.held.now.has(key);
  }
  set(key: unknown, value: unknown): this {
    this.held.now.set(key, value);
    return this;
  }
  delete(key: unknown): boolean {
    return this.held.now.delete(key);
  }
  clear(): void {
    this.held.now.clear();
  }
  keys(): IterableIterator<unknown> {
    return this.held.now.keys();
  }
  values(): IterableIterator<unknown> {
    return this.held.now.values();
  }
  [Symbol.iterator](): IterableIterator<[unknown, unknown]> {
    return this.held.now[Symbol.iterator]();
  }
}
