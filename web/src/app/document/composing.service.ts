import { Injectable, inject } from '@angular/core';
import {
  asSource,
  faintestLetter,
  fitWord,
  allLetters,
  frameOf,
  isPicture,
  proposedRoles,
  reportAtRest,
  smallestScale,
  withLayer,
  type Box,
  type ComposeRole,
  type Graphic,
  type Legibility,
  type Slot,
  type Source,
  type Composition,
} from '@bright-slot/core';
import { PixelsService } from '../pixels/pixels.service';
import { GraphicsRepository } from '../storage/graphics-repository';
import { HouseStyleService } from '../storage/house-style.service';
import { TypeService } from '../type/type.service';
import { breather, framesFirst } from '../ui/breather';
import { ReportContexts } from './report-context.service';

/** Composes graphics anew for other slots: what the worker has to be told, and what it says of them. */
@Injectable({ providedIn: 'root' })
export class Composing {
  private readonly pixels = inject(PixelsService);
  private readonly repository = inject(GraphicsRepository);
  private readonly house = inject(HouseStyleService);
  private readonly type = inject(TypeService);
  private readonly contexts = inject(ReportContexts);

  /** A graphic as what is carried over: what its layers are for, and where its photos' subjects are. */
  async source(graphic: Graphic, given: ReadonlyMap<string, ComposeRole> = new Map()): Promise<Source> {
    const alone = asSource(graphic);
    const shaper = await this.type.ensure(alone);
    const proposed = proposedRoles(alone, shaper, new Set(this.house.style().logos));
    const roles = new Map([...proposed].map(([id, role]) => [id, given.get(id) ?? role]));
    const subjects = new Map<string, Box>();
    for (const layer of alone.layers) {
      if (!isPicture(layer) || layer.role !== 'photo') continue;
      const asset = await this.repository.asset(layer.asset);
      if (asset?.subject) subjects.set(layer.id, asset.subject);
    }
    return { graphic: alone, roles, subjects };
  }

  /** The ways in which a source can be composed for a slot. */
  compositions(source: Source, slot: Slot, stop?: AbortSignal) {
    return this.pixels.compose(source, slot, stop);
  }

  /**
   * How well the faintest letter of a composition is read as it stands, its veil not measured yet: its contrast to what
   * it needs; null where there are no words. To compare ways, at one pixel a px of the slot.
   */
  async readAsItIs({ graphic }: Composition, stop: AbortSignal): Promise<number | null> {
    const seen = atOnePixel(graphic);
    const frame = frameOf(seen);
    const read = await this.pixels.legibility(seen, frame, stop, this.pixels.files);
    return faintest(read, smallestScale(frame.slot));
  }

  /** A composition with its veil just strong enough; at the file's own pixels where it is `exact`. */
  async veiled<C extends Pick<Composition, 'graphic'>>(c: C, exact: boolean, stop: AbortSignal): Promise<C> {
    let { graphic } = c;
    for (const layer of graphic.layers) {
      if (layer.role !== 'veil' || !layer.justEnough) continue;
      const seen = exact ? graphic : atOnePixel(graphic);
      // By the worker of the screen, which has nothing to do meanwhile.
      const found = await this.pixels.strengthFor(seen, frameOf(seen), layer.id, stop);
      if (found.strength !== null) graphic = withLayer(graphic, { ...layer, strength: found.strength });
    }
    return { ...c, graphic };
  }

  /** A picture of a composition, so many px wide. */
  miniature({ graphic }: Pick<Composition, 'graphic'>, width: number, stop: AbortSignal): Promise<Blob> {
    return this.pixels.miniature(graphic, frameOf(graphic), width, stop);
  }

  /** What the fit report says of a graphic, in a word, and how well its faintest letter is read. */
  async judged(graphic: Graphic): Promise<{ fit: string; ratio: number | null }> {
    const frame = frameOf(graphic);
    const context = await this.contexts.whole(graphic, frame);
    const ratio = faintest(context.legibility ?? [], smallestScale(frame.slot));
    return { fit: fitWord(await reportAtRest(context, breather(framesFirst))), ratio };
  }
}

/** A graphic that is wanted at one pixel a px of its slot, so that looking at it is quick. */
function atOnePixel(graphic: Graphic): Graphic {
  const frame = frameOf(graphic);
  return { ...graphic, frames: [{ ...frame, slot: { ...frame.slot, densities: [1] } }] };
}

/** The least contrast of any letter to what it needs. */
function faintest(read: readonly Legibility[], scale: number): number | null {
  const ratios = read.flatMap((l) => {
    const worst = faintestLetter({ letters: allLetters(l) }, scale);
    return worst ? [worst.contrast / worst.needed] : [];
  });
  return ratios.length ? Math.min(...ratios) : null;
}
