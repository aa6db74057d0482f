import type { DataSource } from "typeorm";

type Listener = (projects: readonly string[]) => void;

const listeners = new WeakMap<DataSource, Set<Listener>>();

/** Has someone told of projects once what was written in them is stored; gives what ends it. */
export function onWritten(database: DataSource, listener: Listener): () => void {
  const all = listeners.get(database) ?? new Set();
  listeners.set(database, all.add(listener));
  return () => void all.delete(listener);
}

/** Tells those who asked that projects were written, after the transaction was carried out. */
export function tellWritten(database: DataSource, projects: readonly string[]): void {
  for (const listener of listeners.get(database) ?? []) listener(projects);
}
