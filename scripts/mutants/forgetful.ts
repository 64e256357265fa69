/** Counts up when everything is to be forgotten. */
let turn = 0;

/** Has all forgetful maps forget what they hold. */
export const forgetAll = (): void => {
  turn += 1;
};

/** A map that holds what it is given until everything is forgotten. */
class Forgetful<Key extends object, Kind extends WeakMap<Key, unknown>> {
  private turn = turn;
  private kept: Kind;
  constructor(private readonly make: () => Kind) {
    this.kept = make();
  }
  protected get now(): Kind {
    if (this.turn !== turn) [this.turn, this.kept] = [turn, this.make()];
    return this.kept;
  }
  get(key: Key): unknown {
    return this.now.get(key);
  }
  has(key: Key): boolean {
    return this.now.has(key);
  }
  set(key: Key, value: unknown): this {
    this.now.set(key, value);
    return this;
  }
  delete(key: Key): boolean {
    return this.now.delete(key);
  }
}

export class ForgetfulWeakMap extends Forgetful<object, WeakMap<object, unknown>> {
  constructor() {
    super(() => new WeakMap());
  }
}

/** Its keys are said to be objects as well, and may be anything. */
export class ForgetfulMap extends Forgetful<object, Map<unknown, unknown>> {
  constructor() {
    super(() => new Map());
  }
  get size(): number {
    return this.now.size;
  }
  clear(): void {
    this.now.clear();
  }
  keys(): IterableIterator<unknown> {
    return this.now.keys();
  }
  values(): IterableIterator<unknown> {
    return this.now.values();
  }
  [Symbol.iterator](): IterableIterator<[unknown, unknown]> {
    return this.now[Symbol.iterator]();
  }
}
