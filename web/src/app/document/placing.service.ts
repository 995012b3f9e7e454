import { Injectable, inject } from '@angular/core';
import {
  canvasPoint,
  containBox,
  enclosing,
  grown,
  intersection,
  luminance,
  frameOf,
  pictureBounds,
  placedWords,
  roomForLogo,
  withSubjects,
  type Box,
  type Frame,
  type Graphic,
  type GroundMap,
  type PictureLayer,
  type WordsLayer,
} from '@bright-slot/core';
import { HouseStyleService } from '../storage/house-style.service';
import { PixelsService } from '../pixels/pixels.service';
import { TypeService } from '../type/type.service';
import { GraphicsRepository } from '../storage/graphics-repository';
import { Workbench } from './workbench';

/** Room above and below a logo that fills its slot, in shares of the shorter side. */
const MARGIN = 0.08;

/** Puts what is new where there is room for it: what is on the canvas is looked at first. */
@Injectable({ providedIn: 'root' })
export class Placing {
  private readonly pixels = inject(PixelsService);
  private readonly type = inject(TypeService);
  private readonly house = inject(HouseStyleService);
  private readonly repository = inject(GraphicsRepository);
  private readonly workbench = inject(Workbench);

  /** The frame in hand: what is new lands in it. */
  private frameIn(graphic: Graphic): Frame {
    return frameOf(graphic, this.workbench.frame()?.id);
  }

  /** Words in a free and calm place, in a colour that is read there. */
  async words(layer: WordsLayer, graphic: Graphic): Promise<WordsLayer> {
    const map = await this.look(graphic);
    const shaper = await this.type.ensure({ ...graphic, layers: [...graphic.layers, layer] });
    // On a plain ground the house's own colour for words comes first; over a photo white and ink do.
    const plain = !graphic.layers.some((l) => l.role === 'photo' && l.visible);
    const own = this.house.style().colours.filter((c) => plain && c.role === 'words');
    return placedWords(
      layer,
      graphic,
      this.frameIn(graphic),
      map,
      shaper,
      own.map((c) => c.colour),
    );
  }

  /** A logo beside what stands there already. */
  async logo(layer: PictureLayer, graphic: Graphic): Promise<PictureLayer> {
    if (layer.role !== 'logo' || layer.place.mode !== 'free' || !graphic.layers.some((l) => l.visible)) return layer;
    const shaper = await this.type.ensure(graphic);
    const size = pictureBounds(layer, graphic.canvas);
    const box = roomForLogo(size, graphic, this.frameIn(graphic), await this.look(graphic), shaper);
    return { ...layer, place: { ...layer.place, x: box.x, y: box.y, width: box.width } };
  }

  /**
   * A logo off its sheet, in one press: ground and counters away, trimmed, as high as the slot has room for, beside what
   * stands there. Null where there is no sheet to take away.
   */
  async cleaned(layer: PictureLayer, graphic: Graphic): Promise<PictureLayer | null> {
    const found = await this.pixels.clean(layer);
    if (!found) return null;
    const { canvas } = graphic;
    const { rect } = this.frameIn(graphic);
    const room = grown(rect, -MARGIN * Math.min(rect.width, rect.height));
    const box = containBox(found.box, room);
    // It is not made larger than its own px allow.
    const width = Math.min(box.width, Math.max(found.box.width, pictureBounds(layer, canvas).width));
    const height = (found.box.height * width) / found.box.width;
    const at = { x: rect.x + (rect.width - width) / 2, y: rect.y + (rect.height - height) / 2 };
    const off: PictureLayer = {
      ...layer,
      role: 'logo',
      cutout: found.cutout,
      crop: found.box,
      place: { mode: 'free', ...at, width },
    };
    return this.logo(off, { ...graphic, layers: graphic.layers.filter((l) => l.id !== layer.id) });
  }

  /** Where the subjects of a graphic's photos lie on its canvas, as far as they are known. */
  private async subjectsOf({ layers, canvas }: Graphic): Promise<Box[]> {
    const found = layers.map(async (layer) => {
      if (layer.role !== 'photo' || !layer.visible) return null;
      const subject = (await this.repository.asset(layer.asset))?.subject;
      if (!subject) return null;
      const { width, height } = layer.natural;
      const corners = [0, 1].flatMap((i) =>
        [0, 1].map((j) =>
          canvasPoint(layer, canvas, {
            x: (subject.x + i * subject.width) * width,
            y: (subject.y + j * subject.height) * height,
          }),
        ),
      );
      const around = enclosing(corners.map((p) => ({ ...p, width: 0, height: 0 })));
      return around && intersection(around, { x: 0, y: 0, ...canvas });
    });
    return (await Promise.all(found)).filter((b) => b !== null);
  }

  /** What stands where; a ground of one lightness where that cannot be told. */
  private async look(graphic: Graphic): Promise<GroundMap> {
    try {
      const map = await this.pixels.groundMap(graphic, this.frameIn(graphic));
      return withSubjects(map, graphic.canvas, await this.subjectsOf(graphic));
    } catch {
      const light = luminance(this.frameIn(graphic).slot.ground);
      return { across: 1, down: 1, low: [light], high: [light], busy: [0], subject: [0] };
    }
  }
}
