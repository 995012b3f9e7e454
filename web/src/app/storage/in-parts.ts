/** Writes of fewer Dexie notes key by key for each query that is looked on; of more only that all may be other. */
const LEAST = 50;

/** Many records in parts of like size, each a request of its own: between two of them the page has its turn. */
export function* inParts<T>(records: readonly T[]): Generator<readonly T[], void, void> {
  const parts = Math.max(1, Math.floor(records.length / LEAST));
  for (let i = 0; i < parts; i++)
    yield records.slice(Math.round((i * records.length) / parts), Math.round(((i + 1) * records.length) / parts));
}
