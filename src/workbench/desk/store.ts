import { useSyncExternalStore } from "react";

/** A value that can be watched. Parts are exchanged, never changed in place. */
export class Store<T extends object> {
  private readonly watchers = new Set<() => void>();

  constructor(private value: T) {}

  get = (): T => this.value;

  set(part: Partial<T>) {
    if ((Object.keys(part) as (keyof T)[]).every((key) => Object.is(part[key], this.value[key]))) return;
    this.value = { ...this.value, ...part };
    for (const watcher of this.watchers) watcher();
  }

  watch = (watcher: () => void): (() => void) => {
    this.watchers.add(watcher);
    return () => this.watchers.delete(watcher);
  };
}

/** A part of a store, watched. The part must be the same object while nothing in it has changed. */
export function useStore<T extends object, P>(store: Store<T>, part: (value: T) => P): P {
  const read = () => part(store.get());
  return useSyncExternalStore(store.watch, read, read);
}
