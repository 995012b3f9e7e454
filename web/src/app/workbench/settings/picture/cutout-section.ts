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
  template: `
    @if (layer().vector) {
      <p class="note">A drawing has no ground: its parts stand free already.</p>
    } @else {
      <div class="line">
        <span class="label">Take away</span>
        <span class="group" role="group" aria-label="Take away">
          <button
            type="button"
            class="button small"
            [attr.aria-pressed]="!layer().cutout"
            [disabled]="locked()"
            (click)="cut(null)"
          >
            Nothing
          </button>
          <button
            type="button"
            class="button small"
            [attr.aria-pressed]="flat()?.where === 'border'"
            [disabled]="locked()"
            (click)="cutFlat({ where: 'border' })"
          >
            The ground, from the border inwards
          </button>
          <button
            type="button"
            class="button small"
            [attr.aria-pressed]="flat()?.where === 'counters'"
            [disabled]="locked()"
            (click)="cutFlat({ where: 'counters' })"
          >
            Also where it shows through
          </button>
          <button
            type="button"
            class="button small"
            [attr.aria-pressed]="flat()?.where === 'anywhere'"
            [disabled]="locked()"
            (click)="cutFlat({ where: 'anywhere' })"
          >
            Its colour wherever it occurs
          </button>
          <button
            type="button"
            class="button small"
            [attr.aria-pressed]="layer().cutout?.kind === 'subject' || choosing()"
            [disabled]="locked()"
            (click)="choosing.set(true)"
          >
            All but the subject
          </button>
        </span>
      </div>
      @if (flat(); as f) {
        <div class="line">
          <bs-slider
            class="slide"
            label="Tolerance"
            [value]="f.tolerance"
            [usual]="usual.tolerance"
            [min]="0"
            [max]="40"
            [step]="0.5"
            [disabled]="locked()"
            (drafted)="
              draft(
                { cutout: { kind: 'flat', where: f.where, colour: f.colour, soft: f.soft, tolerance: $event } },
                'tolerance'
              )
            "
            (changed)="cutFlat({ tolerance: $event })"
          />
          <bs-slider
            class="slide"
            label="Softer edge"
            [value]="f.soft"
            [min]="0"
            [max]="8"
            [step]="0.5"
            unit="px"
            [disabled]="locked()"
            (drafted)="
              draft(
                { cutout: { kind: 'flat', where: f.where, colour: f.colour, tolerance: f.tolerance, soft: $event } },
                'softness'
              )
            "
            (changed)="cutFlat({ soft: $event })"
          />
          <span class="group">
            <button
              type="button"
              class="button small"
              [attr.aria-pressed]="f.colour === null"
              [disabled]="locked()"
              (click)="cutFlat({ colour: null })"
            >
              The border’s own colour
            </button>
            <bs-colour
              label="Colour of the ground"
              [swatches]="[]"
              [value]="f.colour ?? '#ffffff'"
              (changed)="cutFlat({ colour: $event })"
            />
          </span>
        </div>
      }
      @if (choosing() || layer().cutout?.kind === 'subject') {
        <bs-subject-cutter [layer]="layer()" (done)="choosing.set(false)" />
      }
    }
    @if (!choosing() && layer().cutout?.kind !== 'subject') {
      <div class="line">
        <button type="button" class="button small" [disabled]="locked() || busy()" (click)="split()">
          Take it apart
        </button>
        <span class="note" role="status">{{
          told() || 'A logo’s mark and wordmark become two layers, each where it stands.'
        }}</span>
      </div>
    }
  `,
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
