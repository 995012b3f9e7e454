import type { Signal, WritableSignal } from '@angular/core';

export interface NamedColour {
  readonly name: string;
  readonly colour: string;
}

/** Colours that belong together, under a heading. */
export interface ColourGroup {
  readonly name: string;
  readonly colours: readonly NamedColour[];
}

/** What the colour control asks of the app around it: colours that are likely to be wanted, and a canvas to take one from. */
export abstract class ColourHelp {
  /** A few, beside the field. */
  abstract readonly few: Signal<readonly NamedColour[]>;
  /** All, in the panel. */
  abstract readonly groups: Signal<readonly ColourGroup[]>;
  /** Whether someone is choosing: only then is anything looked for. */
  abstract readonly wanted: WritableSignal<boolean>;
  /** What a colour can be taken from apart from all the others, by name. */
  abstract readonly layer: Signal<string | null>;
  /** A colour was chosen. */
  abstract used(colour: string): void;
  /** Choosing was given up. */
  abstract calledOff(): void;
}
