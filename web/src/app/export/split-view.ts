import { ChangeDetectionStrategy, Component, ElementRef, effect, input, signal, viewChild } from '@angular/core';
import { valueOf } from '../ui/event-value';

/** The canvas on the left of a line that can be moved, the file on its right, both at one of their px a px of the screen. */
@Component({
  selector: 'bs-split-view',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<div class="both" [style.width.px]="width()" [style.aspect-ratio]="painted().width / painted().height">
      <canvas
        #canvas
        role="img"
        aria-label="The canvas"
        [style.clip-path]="'inset(0 ' + (100 - share()) + '% 0 0)'"
      ></canvas>
      <img class="file" [src]="url()" [alt]="alt()" [style.clip-path]="'inset(0 0 0 ' + share() + '%)'" />
      <i [style.left.%]="share()"></i>
    </div>
    <label class="small-text" [style.width.px]="width()"
      ><span class="visually-hidden">Where the canvas ends and the file begins</span
      ><input type="range" min="0" max="100" step="1" [value]="share()" (input)="share.set(+valueOf($event))"
    /></label>
    <p class="small-text quiet"><span>Left: the canvas</span><span>Right: the file</span></p>`,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      flex: none;
      align-self: flex-start;
      position: relative;
    }
    .both {
      position: relative;
      box-shadow:
        0 0 0 1px var(--ink),
        0 0 0 3px var(--light);
      background: repeating-conic-gradient(#fff 0 25%, #eee8dc 0 50%) 0 0 / 16px 16px;
    }
    canvas,
    .file {
      position: absolute;
      inset: 0;
      width: 100%;
      height: 100%;
    }
    i {
      position: absolute;
      top: 0;
      bottom: 0;
      width: 2px;
      margin-left: -1px;
      background: var(--light);
      box-shadow: 0 0 0 1px var(--ink);
    }
    label {
      display: block;
      margin-top: 8px;
    }
    input {
      width: 100%;
      margin: 0;
      accent-color: var(--ink);
    }
    p {
      display: flex;
      justify-content: space-between;
      margin: 2px 0 0;
      max-width: 100%;
    }
  `,
})
export class SplitView {
  protected readonly valueOf = valueOf;
  readonly painted = input.required<ImageBitmap>();
  readonly url = input.required<string>();
  readonly alt = input.required<string>();
  /** CSS px that the picture is wide. */
  readonly width = input.required<number>();
  protected readonly share = signal(50);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');

  constructor() {
    effect(() => {
      const [painted, canvas] = [this.painted(), this.canvas().nativeElement];
      // Its size has to be set before it is drawn on: that empties it.
      canvas.width = painted.width;
      canvas.height = painted.height;
      canvas.getContext('2d')!.drawImage(painted, 0, 0);
    });
  }
}
