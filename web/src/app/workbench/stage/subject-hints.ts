import { Injectable, signal } from '@angular/core';
import type { Box, Cutout } from '@bright-slot/core';

type Strokes = (Cutout & { kind: 'subject' })['strokes'];

/** What is said of a picture's subject while it is being cut out: a rough box, and strokes over what stays and goes. */
@Injectable()
export class SubjectHints {
  /** The layer that is being marked; null while none is. */
  readonly layer = signal<string | null>(null);
  /** In the picture's own px. */
  readonly box = signal<Box | null>(null);
  readonly strokes = signal<Strokes>([]);
  readonly tool = signal<'box' | 'keep' | 'drop'>('box');
  /** Width of a stroke in the picture's own px. */
  readonly width = signal(20);
  /** Grows with each finished mark. */
  readonly marked = signal(0);

  begin(layer: string, box: Box, strokes: Strokes, longSide: number): void {
    this.layer.set(layer);
    this.box.set(box);
    this.strokes.set(strokes);
    this.tool.set(strokes.length ? 'keep' : 'box');
    this.width.set(Math.max(4, Math.round(longSide / 60)));
  }

  end(): void {
    this.layer.set(null);
  }
}
