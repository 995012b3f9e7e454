import { Injectable, computed, inject } from '@angular/core';
import {
  aligned,
  bad,
  centredIn,
  clipOf,
  enclosing,
  groupOf,
  isPicture,
  layerOf,
  movedUnits,
  nudgeStep,
  pastedLayers,
  pictureGeometry,
  readClip,
  removing,
  safeBoxes,
  sameSize,
  spread,
  unitsOf,
  withImageAt,
  type Alignment,
  type Box,
  type Change,
  type Graphic,
  type Layer,
  type Point,
  type Problem,
  type Unit,
} from '@bright-slot/core';
import { Workbench } from '../../document/workbench';
import { GraphicsRepository } from '../../storage/graphics-repository';
import { TypeService } from '../../type/type.service';

/** What things are brought in line with. */
export type AlignTo = 'canvas' | 'safe' | 'selection' | 'last';

const newId = () => crypto.randomUUID().slice(0, 8);

/** What is done to the layers that are selected, however it is asked for: by key, menu or dock. */
@Injectable()
export class LayerActions {
  private readonly workbench = inject(Workbench);
  private readonly type = inject(TypeService);
  private readonly repository = inject(GraphicsRepository);

  /** The layers that are selected, from back to front. */
  readonly chosen = computed<readonly Layer[]>(() => {
    const ids = this.workbench.selection();
    return (this.workbench.graphic()?.layers ?? []).filter((l) => ids.includes(l.id));
  });
  /** The group that is selected whole, and nothing else. */
  readonly group = computed(() => groupOf(this.workbench.graphic()?.layers ?? [], this.workbench.selection()));

  /** What can be arranged of what is selected, in the order it was. */
  units(): Unit[] {
    const [graphic, shaper] = [this.workbench.graphic(), this.type.shaper()];
    return graphic && shaper ? unitsOf(graphic, this.workbench.selection(), shaper) : [];
  }

  /** In words, for the name of a step. */
  private nameOf(layers: readonly Layer[]): string {
    const group = groupOf(
      this.workbench.graphic()?.layers ?? [],
      layers.map((l) => l.id),
    );
    return group ? group.name : layers.length === 1 ? layers[0]!.name : `${layers.length} layers`;
  }

  /** Deletes layers; of what is selected, what is locked stays. */
  remove(layers?: readonly Layer[]): void {
    const graphic = this.workbench.graphic();
    const going = layers ?? this.chosen().filter((l) => !l.locked);
    if (!graphic || !going.length) return;
    const edits: Change[] = [];
    let now: Graphic = graphic;
    for (const layer of going) {
      const change = removing(layer, now, this.type.shaper());
      edits.push(change);
      now = { ...now, layers: now.layers.filter((l) => l.id !== layer.id) };
    }
    this.workbench.edit({ type: 'together', edits, name: `${this.nameOf(going)} deleted` });
  }

  duplicate(layers: readonly Layer[] = this.chosen()): void {
    const graphic = this.workbench.graphic();
    if (!graphic || !layers.length) return;
    const at = graphic.layers.indexOf(layers.at(-1)!) + 1;
    this.add({ canvas: graphic.canvas, layers }, `${this.nameOf(layers)} duplicated`, at);
  }

  /** The selected layers as they lie on a clipboard; null where there are none. */
  clip(): string | null {
    const graphic = this.workbench.graphic();
    return graphic && this.chosen().length ? clipOf(graphic, this.chosen()) : null;
  }

  /** Adds layers that were copied, here or elsewhere. */
  async paste(text: string): Promise<Problem[]> {
    const read = readClip(text);
    if (!read.ok) return [read.problem];
    const { canvas, passed } = read.value;
    const known = await Promise.all(
      read.value.layers.map(async (l) => !isPicture(l) || (await this.repository.asset(l.asset)) !== undefined),
    );
    const layers = read.value.layers.filter((_, i) => known[i]);
    const left = read.value.layers.length - layers.length;
    const problems: Problem[] = [];
    if (left)
      problems.push(
        bad(
          'gone',
          `${left === 1 ? 'A picture was' : `${left} pictures were`} left out: the file is not in this browser. Add it from its file.`,
        ).problem,
      );
    if (passed)
      problems.push(
        bad(
          'clip',
          `${passed === 1 ? 'One layer' : `${passed} layers`} could not be read and ${passed === 1 ? 'was' : 'were'} left out.`,
        ).problem,
      );
    const graphic = this.workbench.graphic();
    if (graphic && layers.length) {
      await this.type.ensure({ ...graphic, layers: [...graphic.layers, ...layers] });
      this.add({ canvas, layers }, `${layers.length === 1 ? layers[0]!.name : `${layers.length} layers`} pasted`);
    }
    return problems;
  }

  private add(clip: { canvas: Graphic['canvas']; layers: readonly Layer[] }, name: string, at?: number): void {
    const [graphic, shaper] = [this.workbench.graphic(), this.type.shaper()];
    if (!graphic || !shaper) return;
    const layers = pastedLayers(clip, graphic, shaper, newId);
    this.workbench.edit(
      { type: 'add-layers', layers, name, ...(at === undefined ? {} : { at }) },
      layers.map((l) => l.id),
    );
  }

  /** Moves by arrow keys: the picture within its crop, or what is selected. */
  nudge(way: Point, far: boolean): void {
    const graphic = this.workbench.graphic();
    const shaper = this.type.shaper();
    if (!graphic || !shaper) return;
    const step = (axis: 'x' | 'y') => (way[axis] === 0 ? 0 : way[axis] * (far ? 10 : nudgeStep(graphic.canvas, axis)));
    const by = { x: step('x'), y: step('y') };
    const cropped = layerOf(graphic, this.workbench.cropping() ?? '');
    if (cropped && isPicture(cropped)) {
      const { image } = pictureGeometry(cropped, graphic.canvas);
      const to = { ...image, x: image.x + by.x, y: image.y + by.y };
      this.workbench.change(withImageAt(cropped, to, graphic.canvas), `${cropped.name} cropped`, `crop:${cropped.id}`);
      return;
    }
    // A veil, or a band along a side, lies as it is set to.
    const units = this.units();
    this.workbench.changeAll(
      movedUnits(units, by, graphic.canvas),
      `${this.nameOf(this.chosen())} moved`,
      `nudge:${this.workbench.selection().join()}`,
    );
  }

  makeGroup(): void {
    const layers = this.chosen();
    if (layers.length < 2) return;
    const names = new Set(this.workbench.graphic()!.layers.map((l) => l.group?.name));
    let n = 1;
    while (names.has(`Group ${n}`)) n++;
    const ids = layers.map((l) => l.id);
    const name = `Group ${n}`;
    this.workbench.edit(
      { type: 'group', ids, group: { id: newId(), name }, name: `${layers.length} layers grouped` },
      ids,
    );
  }

  ungroup(): void {
    const layers = this.chosen().filter((l) => l.group);
    const ids = layers.map((l) => l.id);
    if (ids.length)
      this.workbench.edit(
        { type: 'ungroup', ids, name: `${this.group()?.name ?? `${layers.length} layers`} no longer grouped` },
        this.workbench.selection(),
      );
  }

  /** Moves what is selected among the layers: by one place, or to an end. */
  order(to: 'back' | 'forward' | 'behind' | 'front', chosen: readonly Layer[] = this.chosen()): void {
    const graphic = this.workbench.graphic();
    if (!graphic || !chosen.length) return;
    const ids = chosen.map((l) => l.id);
    const rest = graphic.layers.filter((l) => !ids.includes(l.id));
    // How many of the others lie behind the one furthest forward, or further back.
    const behind = (l: Layer) =>
      graphic.layers.slice(0, graphic.layers.indexOf(l)).filter((o) => rest.includes(o)).length;
    const place = {
      behind: 0,
      front: rest.length,
      forward: Math.min(rest.length, behind(chosen.at(-1)!) + 1),
      back: Math.max(0, behind(chosen[0]!) - 1),
    }[to];
    const where = { back: 'further back', forward: 'further forward', behind: 'to the back', front: 'to the front' }[
      to
    ];
    this.workbench.edit(
      { type: 'move-layers', ids, to: place, name: `${this.nameOf(chosen)} moved ${where}` },
      this.workbench.selection(),
    );
  }

  /** The box that things are brought in line with, canvas px. */
  boxFor(to: AlignTo, units: readonly Unit[]): Box | null {
    const graphic = this.workbench.graphic();
    const frame = this.workbench.frame();
    if (!graphic || !frame) return null;
    if (to === 'last') return units.at(-1)?.box ?? null;
    if (to === 'selection') return enclosing(units.map((u) => u.box));
    if (to === 'canvas') return frame.rect;
    const safe = safeBoxes(frame.slot)[0];
    return safe ? { ...safe, x: safe.x + frame.rect.x, y: safe.y + frame.rect.y } : frame.rect;
  }

  private arrange(layers: readonly Layer[], what: string): void {
    this.workbench.changeAll(layers, `${this.nameOf(this.chosen())} ${what}`);
  }

  align(by: Alignment, to: AlignTo): void {
    const units = this.units();
    const box = this.boxFor(to, units);
    if (!box) return;
    const names = { canvas: 'the canvas', safe: 'the safe area', selection: 'each other', last: 'the last' };
    const edge = { left: 'left', centre: 'middle', right: 'right', top: 'top', middle: 'middle', bottom: 'foot' }[by];
    this.arrange(aligned(units, by, box, this.workbench.graphic()!.canvas), `aligned: ${edge}, to ${names[to]}`);
  }

  /** Equal gaps: between the outer two, or over all of the canvas or the safe area. */
  spread(axis: 'x' | 'y', to: AlignTo): void {
    const units = this.units();
    const within = to === 'canvas' || to === 'safe' ? this.boxFor(to, units) : null;
    this.arrange(
      spread(units, axis, this.workbench.graphic()!.canvas, within),
      `with equal gaps ${axis === 'x' ? 'across' : 'down'}`,
    );
  }

  sameSize(axis: 'x' | 'y', to: AlignTo): void {
    const [graphic, shaper] = [this.workbench.graphic(), this.type.shaper()];
    const units = this.units();
    const length = axis === 'x' ? 'width' : 'height';
    const as = to === 'canvas' || to === 'safe' ? this.boxFor(to, units) : units.at(-1)?.box;
    if (graphic && shaper && as)
      this.arrange(sameSize(units, axis, as[length], graphic, shaper), axis === 'x' ? 'as wide' : 'as high');
  }

  /** To the middle of the canvas, both ways, as they stand. */
  centre(to: 'canvas' | 'safe' = 'canvas'): void {
    const units = this.units();
    const box = this.boxFor(to, units);
    if (box) this.arrange(centredIn(units, box, this.workbench.graphic()!.canvas), 'in the middle');
  }
}
