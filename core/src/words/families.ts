/** A type family shipped with the app. */
export interface Family {
  readonly name: string;
  readonly kind: 'plain' | 'display' | 'serif' | 'slab' | 'hand' | 'mono';
  /** Least and greatest weight of its variable face. */
  readonly weights: readonly [number, number];
  readonly italic: boolean;
  /** File stem: `<stem>.ttf` and, where italic, `<stem>-italic.ttf`. */
  readonly file: string;
}

/** All under the SIL Open Font License 1.1. */
export const families: readonly Family[] = [
  { name: 'Bricolage Grotesque', kind: 'display', weights: [200, 800], italic: false, file: 'bricolage-grotesque' },
  { name: 'Public Sans', kind: 'plain', weights: [100, 900], italic: true, file: 'public-sans' },
  { name: 'Lora', kind: 'serif', weights: [400, 700], italic: true, file: 'lora' },
  { name: 'Playfair Display', kind: 'serif', weights: [400, 900], italic: true, file: 'playfair-display' },
  { name: 'Bitter', kind: 'slab', weights: [100, 900], italic: true, file: 'bitter' },
  { name: 'Caveat', kind: 'hand', weights: [400, 700], italic: false, file: 'caveat' },
  { name: 'JetBrains Mono', kind: 'mono', weights: [100, 800], italic: true, file: 'jetbrains-mono' },
];

export const familyNamed = (name: string): Family | undefined => families.find((f) => f.name === name);

/** The file, without its ending, that carries a face; the upright one where the family has no italic. */
export function faceFile(family: Family, italic: boolean): string {
  return italic && family.italic ? `${family.file}-italic` : family.file;
}

/** A weight held within what the family has. */
export function weightWithin(family: Family, weight: number): number {
  return Math.min(Math.max(weight, family.weights[0]), family.weights[1]);
}
