import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { clamp, type Slot } from '@bright-slot/core';
import type { LayoutTry } from './layout-tries';

/** How large a slot is shown among tiles, CSS px: strips as wide as half the room, others as high as a row. */
export function tileSize({ width, height }: Pick<Slot, 'width' | 'height'>): { width: number; height: number } {
  const ratio = width / height;
  const by = Math.min((ratio >= 4.4 ? 430 : ratio >= 2.2 ? 288 : 214) / width, 176 / height, 2);
  return { width: Math.round(width * by), height: Math.round(height * by) };
}

/** What a graphic would be in each layout, as pictures in its slot's own proportions; one press takes it. */
@Component({
  selector: 'bs-layout-tiles',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(keydown)': 'arrows($event)' },
  template: `
    <ul>
      @if (bare()) {
        <li [style.width.px]="wide()">
          <button type="button" class="bare-canvas" (click)="bareChosen.emit()">
            <span
              class="sheet"
              [class.round]="slot().shape.kind === 'ellipse'"
              [style.width.px]="size().width"
              [style.height.px]="size().height"
            ></span>
            <span class="name">Bare canvas</span>
          </button>
        </li>
      }
      @for (t of tries(); track t.key) {
        <li [style.width.px]="wide()">
          <button
            type="button"
            [attr.aria-label]="t.name"
            [attr.aria-pressed]="now() === null ? null : now() === t.key"
            (click)="chosen.emit(t)"
          >
            <span class="picture" [style.width.px]="size().width" [style.height.px]="size().height">
              @if (t.url) {
                <img [src]="t.url" alt="" [class.round]="slot().shape.kind === 'ellipse'" />
              }
            </span>
            <span class="name">{{ t.name }}</span>
          </button>
        </li>
      }
    </ul>
    <p class="visually-hidden" role="status">{{ busy() ? '' : 'All layouts are shown.' }}</p>
  `,
  styles: `
    :host {
      display: block;
      position: relative;
    }
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
      display: flex;
      flex-wrap: wrap;
      gap: 14px 18px;
      align-items: flex-start;
    }
    button {
      display: block;
      width: 100%;
      padding: 0;
      border: 0;
      background: none;
      font: inherit;
      color: inherit;
      text-align: left;
      cursor: pointer;
    }
    .picture {
      display: block;
      background: var(--ground-deep);
      box-shadow: 0 0 0 1px var(--hairline);
    }
    .picture:has(.round) {
      box-shadow: none;
      background: none;
    }
    img {
      display: block;
      width: 100%;
      height: 100%;
    }
    .round {
      border-radius: 50%;
    }
    .sheet {
      display: block;
      background: var(--surface);
      border: 1px dashed var(--border);
    }
    .bare-canvas:hover .sheet {
      border: 1px solid var(--ink);
      box-shadow: 0 0 0 2px var(--light);
    }
    .name {
      display: block;
      margin-top: 5px;
      font-size: 13px;
    }
    button:hover .picture,
    button[aria-pressed='true'] .picture {
      box-shadow:
        0 0 0 1px var(--ink),
        0 0 0 3px var(--light);
    }
    button[aria-pressed='true'] .name {
      font-weight: 600;
    }
  `,
})
export class LayoutTiles {
  readonly slot = input.required<Slot>();
  readonly tries = input.required<readonly LayoutTry[]>();
  /** The one it is in now, where it is in one. */
  readonly now = input<string | null>(null);
  /** Whether some are still being looked at. */
  readonly busy = input(false);
  readonly chosen = output<LayoutTry>();
  /** Whether an empty canvas can be chosen too, and that it was. */
  readonly bare = input(false);
  readonly bareChosen = output();
  protected readonly size = computed(() => tileSize(this.slot()));
  /** As wide as its name needs at the least. */
  protected readonly wide = computed(() => Math.max(this.size().width, 112));

  /** Arrow keys go from tile to tile. */
  protected arrows(event: KeyboardEvent): void {
    const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    const all = [...(event.currentTarget as HTMLElement).querySelectorAll<HTMLElement>('li button')];
    const at = all.indexOf(document.activeElement as HTMLElement);
    if (!by || at < 0) return;
    event.preventDefault();
    all[clamp(at + by, 0, all.length - 1)]?.focus();
  }
}
