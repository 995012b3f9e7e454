import same from 'fast-deep-equal';

type Settings = Readonly<Record<string, unknown>>;

const isSettings = (v: unknown): v is Settings => typeof v === 'object' && v !== null && !Array.isArray(v);

/** What tells apart settings of one name that hold different things. */
const KINDS = ['kind', 'mode', 'role', 'form'] as const;
const oneKind = (a: Settings, b: Settings) => KINDS.every((k) => typeof a[k] === 'object' || a[k] === b[k]);

/**
 * Two changes of one value brought together, setting by setting: where only one of them changed a setting, that one's
 * is taken; where both did, mine. Lists are one setting. Values are plain JSON and are shared, never copied.
 */
export function merged(base: unknown, mine: unknown, theirs: unknown): unknown {
  if (mine === base || same(mine, base)) return theirs;
  if (theirs === base || same(theirs, base)) return mine;
  if (!isSettings(base) || !isSettings(mine) || !isSettings(theirs)) return mine;
  if (!oneKind(base, mine) || !oneKind(base, theirs)) return mine;
  const keys = new Set([...Object.keys(theirs), ...Object.keys(mine)]);
  const both: Record<string, unknown> = {};
  for (const key of keys) {
    const value = merged(base[key], mine[key], theirs[key]);
    if (value !== undefined) both[key] = value;
  }
  return both;
}
