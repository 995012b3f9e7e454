import { Injectable, signal } from '@angular/core';

/** How large a square of pixels is averaged. */
export type SampleSide = 1 | 3 | 7;

/** A colour that is being taken from the canvas: as all of it is seen, or from the selected layer only. */
export interface Sampling {
  readonly from: 'seen' | 'layer';
  /** The layer's name, to say which. */
  readonly layer: string;
  readonly side: SampleSide;
  /** Null where it was called off. */
  done(colour: string | null): void;
}

/** Taking a colour from the canvas: asked for by whoever chooses a colour, done by the stage. */
@Injectable({ providedIn: 'root' })
export class SamplingService {
  readonly under = signal<Sampling | null>(null);
  /** Whether there is a canvas to take a colour from. */
  readonly canvas = signal(false);
  readonly side = signal<SampleSide>(3);

  ask(from: Sampling['from'], layer: string): Promise<string | null> {
    this.under()?.done(null);
    return new Promise((resolve) =>
      this.under.set({
        from,
        layer,
        side: this.side(),
        done: (colour) => {
          this.under.set(null);
          resolve(colour);
        },
      }),
    );
  }
}
