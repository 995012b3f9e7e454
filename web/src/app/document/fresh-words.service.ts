import { Injectable, effect, inject, signal, untracked } from '@angular/core';
import { layoutOf, middleOf, textOf, wordsBounds, type Graphic, type WordsLayer } from '@bright-slot/core';
import { TypeService } from '../type/type.service';
import { Workbench } from './workbench';
import { Placing } from './placing.service';

/** How long words have to rest before they are placed anew, ms. */
const REST = 350;

/**
 * Words that were just put where there is room are put there again once they are written, since that is when it is known
 * how much they need; for as long as nobody has moved or styled them.
 */
@Injectable()
export class FreshWords {
  private readonly workbench = inject(Workbench);
  private readonly placing = inject(Placing);
  private readonly type = inject(TypeService);
  /** As they were asked for, and as they were last placed. */
  private readonly fresh = signal<{ readonly asked: WordsLayer; readonly placed: WordsLayer } | null>(null);

  constructor() {
    effect((cleanUp) => {
      const fresh = this.fresh();
      const graphic = this.workbench.graphic();
      if (!fresh || !graphic) return;
      const now = graphic.layers.find((l) => l.id === fresh.placed.id);
      // Left alone is left for good: the next words are others.
      if (now?.role !== 'words' || !sameBut(now, fresh.placed) || this.moved(now, fresh.placed, graphic))
        return untracked(() => this.fresh.set(null));
      if (textOf(now) === textOf(fresh.placed) || this.workbench.writingOn() === now.id) return;
      const waiting = setTimeout(() => void this.placeAgain(graphic, now, fresh.asked), REST);
      cleanUp(() => clearTimeout(waiting));
    });
  }

  /** Words that were asked for in a look, and where they were put. */
  watch(asked: WordsLayer, placed: WordsLayer): void {
    this.fresh.set({ asked, placed });
  }

  /** Places what was written now, before something else is put beside it. */
  async settle(): Promise<void> {
    const fresh = this.fresh();
    const graphic = this.workbench.graphic();
    const now = graphic?.layers.find((l) => l.id === fresh?.placed.id);
    if (!fresh || !graphic || now?.role !== 'words' || textOf(now) === textOf(fresh.placed)) return;
    if (sameBut(now, fresh.placed) && !this.moved(now, fresh.placed, graphic))
      await this.placeAgain(graphic, now, fresh.asked);
    this.fresh.set(null);
  }

  /** Whether somebody moved it: it stands elsewhere, and not because it is kept in the middle. */
  private moved(now: WordsLayer, before: WordsLayer, { canvas }: Graphic): boolean {
    const shaper = untracked(() => this.type.shaper());
    if (!shaper) return false;
    const middle = middleOf(wordsBounds(now, layoutOf(now, shaper)));
    const off = (axis: 'x' | 'y', length: number) =>
      now.place[axis] !== before.place[axis] && Math.abs(middle[axis] - length / 2) > 1;
    return off('x', canvas.width) || off('y', canvas.height);
  }

  private async placeAgain(graphic: Graphic, now: WordsLayer, asked: WordsLayer): Promise<void> {
    const others = { ...graphic, layers: graphic.layers.filter((l) => l.id !== now.id) };
    const text = { ...asked, name: now.name, paragraphs: now.paragraphs.map((p) => withLookOf(p, asked)) };
    const placed = await this.placing.words(text, others);
    if (this.workbench.graphic() !== graphic) return;
    this.fresh.set({ asked, placed });
    this.workbench.amend({ type: 'replace-layer', layer: placed }, graphic);
  }
}

/** Written lines in the look that was asked for. */
const withLookOf = (p: WordsLayer['paragraphs'][number], asked: WordsLayer) => {
  const model = asked.paragraphs[0]!;
  return { ...model, runs: p.runs.map((r) => ({ ...model.runs[0]!, text: r.text })) };
};

/** Whether words stand and look as they did, whatever they say. */
function sameBut(now: WordsLayer, before: WordsLayer): boolean {
  const look = (l: WordsLayer) =>
    JSON.stringify([
      { ...l, name: '', paragraphs: [], fields: null, place: null },
      l.paragraphs.map((p) => p.align)[0],
      [...new Set(l.paragraphs.flatMap((p) => p.runs.map((r) => JSON.stringify({ ...r, text: '' }))))],
    ]);
  return look(now) === look(before);
}
