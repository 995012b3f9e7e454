import { ChangeDetectionStrategy, Component, ElementRef, effect, inject, input, viewChildren } from '@angular/core';
import { clamp, pictureFormats, type FileDifference } from '@bright-slot/core';
import { drawnFile } from '../pixels/vectors';

/** File px that a loupe shows on a side, and how many times it enlarges them. */
const SHOWN = 42;
const TIMES = 3;

/** The places where a file differs most from the canvas, enlarged: the canvas on the left of each, the file on the right. */
@Component({
  selector: 'bs-loupes',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `@for (part of difference().worst; track $index) {
    <figure>
      <div class="pair">
        @for (what of ['canvas', 'file']; track what) {
          <canvas
            #loupe
            [width]="side"
            [height]="side"
            role="img"
            [attr.aria-label]="'The ' + what + ', enlarged at ' + part.box.x + ', ' + part.box.y"
          ></canvas>
        }
      </div>
      <figcaption class="small-text quiet">
        {{ part.weight > 1 ? 'Can be seen' : 'Looks the same' }} · {{ (part.structure * 100).toFixed(1) }}&nbsp;%,
        ΔE&nbsp;{{ part.colour.toFixed(1) }}
      </figcaption>
    </figure>
  }`,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      gap: 10px 16px;
    }
    figure {
      margin: 0;
    }
    .pair {
      display: flex;
      gap: 2px;
      background: var(--ink);
      border: 1px solid var(--ink);
      width: max-content;
    }
    canvas {
      width: ${SHOWN * TIMES}px;
      height: ${SHOWN * TIMES}px;
      image-rendering: pixelated;
      background: #fff;
    }
    figcaption {
      max-width: ${2 * SHOWN * TIMES}px;
      margin-top: 3px;
    }
  `,
})
export class Loupes {
  readonly painted = input.required<ImageBitmap>();
  readonly file = input.required<Blob>();
  /** The page’s own colour underneath, `#rrggbb`. */
  readonly ground = input.required<string>();
  readonly difference = input.required<FileDifference>();
  protected readonly side = SHOWN;
  private readonly loupes = viewChildren<ElementRef<HTMLCanvasElement>>('loupe');
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  constructor() {
    effect((onCleanup) => {
      const [painted, file, ground, { worst }] = [this.painted(), this.file(), this.ground(), this.difference()];
      const sheets = this.loupes().map((l) => l.nativeElement);
      let gone = false;
      onCleanup(() => (gone = true));
      const { width, height } = painted;
      const svg = file.type === pictureFormats.svg.mime;
      void (svg ? drawnFile(file, { width, height }) : createImageBitmap(file, { colorSpaceConversion: 'none' }))
        .then((bitmap) => {
          for (const [i, { box }] of gone ? [] : worst.entries()) {
            // The part with what is around it, within the picture where it is large enough.
            const place = (at: number, size: number, whole: number) =>
              clamp(Math.round(at + size / 2 - SHOWN / 2), 0, Math.max(0, whole - SHOWN));
            const x = place(box.x, box.width, bitmap.width);
            const y = place(box.y, box.height, bitmap.height);
            for (const [j, from] of [painted, bitmap].entries()) {
              const context = sheets[2 * i + j]?.getContext('2d');
              if (!context) continue;
              context.fillStyle = ground;
              context.fillRect(0, 0, SHOWN, SHOWN);
              context.drawImage(from, -x, -y);
            }
          }
          bitmap.close();
          this.host.nativeElement.dataset['drawn'] = String(worst.length);
        })
        // The file is told to be unreadable where it is made.
        .catch(() => undefined);
    });
  }
}
