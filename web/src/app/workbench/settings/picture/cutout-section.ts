import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { partAsLayer, partNames, usualCutout, type Cutout, type PictureLayer } from '@bright-slot/core';
import { ColourField } from '../../../ui/colour-field';
import { PixelsService } from '../../../pixels/pixels.service';
import { SliderField } from '../../../ui/slider-field';
import { SubjectCutter } from './subject-cutter';
import { PictureSection } from './section';

type Flat = Cutout & { kind: 'flat' };

/** What of a picture is taken away: a flat ground, or all but its subject; and a logo taken apart. */
@Component({
  selector: 'bs-cutout-section',
  imports: [SliderField, ColourField, SubjectCutter],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './cutout-section.html',
  styles: `
    @use 'picture';
    .slide {
      width: 310px;
    }
  `,
})
export class CutoutSection extends PictureSection {
  private readonly pixels = inject(PixelsService);
  protected readonly usual = usualCutout;
  protected readonly choosing = signal(false);
  protected readonly flat = computed<Flat | null>(() => {
    const c = this.layer().cutout;
    return c?.kind === 'flat' ? c : null;
  });

  protected cut(cutout: Cutout | null): void {
    this.choosing.set(false);
    this.set({ cutout }, cutout ? 'ground taken away' : 'ground brought back');
  }

  protected cutFlat(change: Partial<Flat>): void {
    this.cut({ ...(this.flat() ?? usualCutout), ...change });
  }

  /** The parts of a logo become layers of their own, each where it stands, in one step. */
  protected split(): Promise<void> {
    return this.during(async () => {
      const layer = this.layer();
      const parts = await this.pixels.parts(layer);
      if (parts.length < 2) return 'It is all of one piece: nothing stands apart.';
      const { natural } = layer;
      const names = partNames(parts, natural, layer.name);
      const layers = parts.map((p, i): PictureLayer => {
        // A hair of room, so that soft edges are not cut.
        const room = Math.max(natural.width, natural.height) / 640;
        const x = Math.max(0, p.x * natural.width - room);
        const y = Math.max(0, p.y * natural.height - room);
        const part = {
          x,
          y,
          width: Math.min(natural.width, (p.x + p.width) * natural.width + room) - x,
          height: Math.min(natural.height, (p.y + p.height) * natural.height + room) - y,
        };
        return {
          ...partAsLayer(layer, part, this.canvas()),
          id: crypto.randomUUID().slice(0, 8),
          name: names[i]!,
        };
      });
      const at = this.workbench.graphic()!.layers.findIndex((l) => l.id === layer.id);
      this.workbench.edit(
        {
          type: 'together',
          name: `${layer.name} taken apart`,
          edits: [
            { type: 'remove-layer', id: layer.id },
            { type: 'add-layers', layers, at },
          ],
        },
        layers[0]!.id,
      );
      return '';
    });
  }
}
