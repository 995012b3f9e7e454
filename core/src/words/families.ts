/** A type family: shipped with the app, or brought by the person (`own`). */
export interface Family {
  readonly name: string;
  readonly kind: 'plain' | 'display' | 'serif' | 'slab' | 'hand' | 'mono' | 'own';
  /** Least and greatest weight of its variable face. */
  readonly weights: readonly [number, number];
  readonly italic: boolean;
  /** File stem: `<stem>.ttf` and, where italic, `<stem>-italic.ttf`. */
  readonly file: string;
}

/** All under the SIL Open Font License 1.1, but for Roboto Slab: Apache License 2.0. */
export const families: readonly Family[] = [
  { name: 'Bricolage Grotesque', kind: 'display', weights: [200, 800], italic: false, file: 'bricolage-grotesque' },
  { name: 'Public Sans', kind: 'plain', weights: [100, 900], italic: true, file: 'public-sans' },
  { name: 'Work Sans', kind: 'plain', weights: [100, 900], italic: true, file: 'work-sans' },
  { name: 'Nunito', kind: 'plain', weights: [200, 1000], italic: true, file: 'nunito' },
  { name: 'Oswald', kind: 'display', weights: [200, 700], italic: false, file: 'oswald' },
  { name: 'Unbounded', kind: 'display', weights: [200, 900], italic: false, file: 'unbounded' },
  { name: 'Lora', kind: 'serif', weights: [400, 700], italic: true, file: 'lora' },
  { name: 'Playfair Display', kind: 'serif', weights: [400, 900], italic: true, file: 'playfair-display' },
  { name: 'Source Serif 4', kind: 'serif', weights: [200, 900], italic: true, file: 'source-serif-4' },
  { name: 'Fraunces', kind: 'serif', weights: [100, 900], italic: true, file: 'fraunces' },
  { name: 'Bitter', kind: 'slab', weights: [100, 900], italic: true, file: 'bitter' },
  { name: 'Roboto Slab', kind: 'slab', weights: [100, 900], italic: false, file: 'roboto-slab' },
  { name: 'Caveat', kind: 'hand', weights: [400, 700], italic: false, file: 'caveat' },
  { name: 'Dancing Script', kind: 'hand', weights: [400, 700], italic: false, file: 'dancing-script' },
  { name: 'JetBrains Mono', kind: 'mono', weights: [100, 800], italic: true, file: 'jetbrains-mono' },
  { name: 'Source Code Pro', kind: 'mono', weights: [200, 900], italic: true, file: 'source-code-pro' },
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
