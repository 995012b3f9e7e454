import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatOption, MatSelect } from '@angular/material/select';
import { shapeBox, turnedLayer, type Box, type ShapeLayer, type ShapePlace, type WordsLayer } from '@bright-slot/core';
import { Choice, type Option } from '../../../ui/choice';
import { NumberField } from '../../../ui/number-field';
import { TypeService } from '../../../type/type.service';
import { AlignFields } from '../align-fields';
import { LayerSection } from '../section';

/** Where a shape lies: in a box, from end to end, along a side, or about words. */
@Component({
  selector: 'bs-shape-place',
  imports: [AlignFields, Choice, NumberField, MatSelect, MatOption],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './shape-place.html',
  styles: `
    @use '../sections';
    :host {
      display: block;
    }
    :host > .line + .line,
    :host > .line + bs-align-fields {
      margin-top: 8px;
    }
    bs-number {
      width: 132px;
    }
    .wide {
      width: 164px;
    }
    .side,
    .words {
      display: flex;
      width: 150px;
      font-size: 13px;
    }
    .words {
      width: 200px;
    }
  `,
})
export class ShapePlaceSection extends LayerSection<ShapeLayer> {
  private readonly type = inject(TypeService);
  protected readonly endFields = [
    { label: 'From left', end: 'from', axis: 'x' },
    { label: 'From top', end: 'from', axis: 'y' },
    { label: 'To left', end: 'to', axis: 'x' },
    { label: 'To top', end: 'to', axis: 'y' },
  ] as const;
  protected readonly boxFields = [
    { label: 'From the left', key: 'x', wide: true, least: -100_000 },
    { label: 'From the top', key: 'y', wide: true, least: -100_000 },
    { label: 'Width', key: 'width', wide: false, least: 0.1 },
    { label: 'Height', key: 'height', wide: false, least: 0.1 },
  ] as const;
  protected readonly place = computed<ShapePlace>(() => this.layer().place);
  private readonly as = <M extends ShapePlace['mode']>(mode: M) =>
    computed(() => {
      const place = this.place();
      return place.mode === mode ? (place as ShapePlace & { mode: M }) : null;
    });
  protected readonly band = this.as('band');
  protected readonly note = this.as('around');
  protected readonly ends = this.as('line');
  protected readonly words = computed(() =>
    (this.workbench.working()?.layers ?? []).filter((l): l is WordsLayer => l.role === 'words'),
  );
  protected readonly box = computed<Box>(() => {
    const shaper = this.type.shaper();
    return shaper ? shapeBox(this.layer(), this.workbench.shown()!, shaper) : { x: 0, y: 0, width: 1, height: 1 };
  });
  protected readonly long = computed(() => {
    const e = this.ends();
    return e ? Math.round(Math.hypot(e.to.x - e.from.x, e.to.y - e.from.y) * 10) / 10 : 0;
  });

  protected readonly modes = computed((): Option<ShapePlace['mode']>[] => [
    { id: 'box', name: 'Where it is put' },
    ...(this.layer().form.kind === 'rectangle' ? [{ id: 'band' as const, name: 'Along a side' }] : []),
    { id: 'around', name: 'Around words', disabled: !this.words().length, why: 'There are no words yet' },
  ]);

  protected lie(mode: ShapePlace['mode']): void {
    if (mode === 'box') this.inBox();
    else if (mode === 'band') this.asBand('bottom');
    else this.around(this.words()[0]!.id);
  }

  protected to(place: ShapePlace): void {
    this.set({ place }, 'place');
  }

  private inBox(): void {
    this.to({ mode: 'box', box: this.box() });
  }

  protected asBand(side: (ShapePlace & { mode: 'band' })['side']): void {
    const { width, height } = this.canvas();
    const size = this.band()?.size ?? Math.round((side === 'left' || side === 'right' ? width : height) * 0.2);
    this.set({ place: { mode: 'band', side, size }, turn: 0 }, 'place');
  }

  protected around(words: string): void {
    const { across, down } = this.note() ?? { across: 20, down: 12 };
    this.to({ mode: 'around', words, across, down, last: this.box() });
  }

  protected room(change: Partial<{ across: number; down: number }>): void {
    const note = this.note();
    if (note) this.to({ ...note, ...change });
  }

  protected put(key: keyof Box, to: number): void {
    this.to({ mode: 'box', box: { ...this.box(), [key]: to } });
  }

  protected end(which: 'from' | 'to', axis: 'x' | 'y', to: number): void {
    const e = this.ends();
    if (e) this.to({ ...e, [which]: { ...e[which], [axis]: to } });
  }

  /** Straight across, or straight down where that is nearer. */
  protected level(): void {
    const e = this.ends();
    if (!e) return;
    const across = Math.abs(e.to.x - e.from.x) >= Math.abs(e.to.y - e.from.y);
    this.end('to', across ? 'y' : 'x', across ? e.from.y : e.from.x);
  }

  protected turn(degrees: number): void {
    const turned = turnedLayer(this.layer(), degrees);
    this.workbench.change(turned, `${turned.name} turned by ${turned.turn}°`, `turn:${turned.id}`);
  }
}
