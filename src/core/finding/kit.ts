/** A plan asks for a kind that did not come with its script. */
export class MissingKind extends Error {}

/**
 * Kinds by their names. At build time all of them are there; a dashboard holds those that its plan can
 * reach, each added by the part of the script that it comes with.
 */
export class Kit<T> {
  private readonly kinds = new Map<string, T>();

  constructor(
    /** What its kinds are, for those who miss one: "mark". */
    private readonly what: string,
  ) {}

  add(name: string, kind: T) {
    this.kinds.set(name, kind);
  }

  addAll(kinds: Readonly<Record<string, T>>) {
    for (const [name, kind] of Object.entries(kinds)) this.add(name, kind);
  }

  /**
   * The kind of a name. Throws {@link MissingKind} where it is not there: the choice of parts is wrong then, not
   * the report.
   */
  get(name: string): T {
    const kind = this.kinds.get(name);
    if (kind === undefined) throw new MissingKind(`this dashboard was written without the ${this.what} "${name}"`);
    return kind;
  }

  /** True where the script came with it. */
  has(name: string): boolean {
    return this.kinds.has(name);
  }
}

/** One thing by itself that a dashboard may be without, as maps or tabs are. */
export class Optional<T> {
  private readonly kit = new Kit<T>("part");

  constructor(
    /** What it is, for those who miss it: "maps". */
    private readonly what: string,
  ) {}

  add(thing: T) {
    this.kit.add(this.what, thing);
  }

  /** Throws {@link MissingKind} where it is not there. */
  get(): T {
    return this.kit.get(this.what);
  }

  /** True where the script came with it. */
  get isThere(): boolean {
    return this.kit.has(this.what);
  }
}
