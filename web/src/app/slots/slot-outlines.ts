import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { sizeText, type Slot } from '@bright-slot/core';

/** The largest outline is no wider than this, CSS px. */
const WIDEST = 208;

/** Slots drawn to one scale, so that a strip, a tile and an avatar are told apart at a glance. */
@Component({
  selector: 'bs-slot-outlines',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul>
      @for (s of ordered(); track s.id) {
        <li [attr.data-slot]="s.id">
          <button
            type="button"
            [class.selected]="s.id === selected()"
            [attr.aria-pressed]="s.id === selected()"
            [attr.aria-label]="s.name + ', ' + size(s) + (s.site ? ', ' + s.site : '')"
            (click)="chosen.emit(s)"
            (dblclick)="opened.emit(s)"
            (keydown)="key($event, s)"
          >
            <span
              class="outline"
              [class.fluid]="s.anyWidth"
              [style.width.px]="s.width * scale()"
              [style.height.px]="s.height * scale()"
              [style.border-radius]="radius(s)"
            ></span>
            <span class="name">{{ s.name }}</span>
            <span class="about">{{ about(s) }}</span>
          </button>
        </li>
      }
    </ul>
  `,
  styles: `
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
      display: flex;
      flex-wrap: wrap;
      align-items: flex-end;
      gap: 12px 18px;
    }
    button {
      display: flex;
      flex-direction: column;
      align-items: flex-start;
      min-width: 118px;
      max-width: 320px;
      border: 0;
      background: none;
      padding: 4px;
      text-align: left;
      color: var(--ink);
      cursor: pointer;
      font: inherit;
      border-radius: var(--corner);
    }
    .outline {
      display: block;
      background: var(--surface);
      border: 1px solid var(--ink);
      min-width: 4px;
      min-height: 4px;
      margin-bottom: 6px;
    }
    .outline.fluid {
      border-left-style: dashed;
      border-right-style: dashed;
    }
    button:hover .outline {
      background: var(--light-pale);
    }
    button.selected .outline {
      background: var(--light-pale);
      outline: 3px solid var(--light);
      box-shadow: 0 0 0 4px var(--ink);
    }
    .name {
      font-weight: 600;
      font-size: 13px;
      line-height: 1.3;
    }
    .about {
      font-size: 12px;
      color: var(--ink-soft);
      line-height: 1.35;
      max-width: 200px;
    }
  `,
})
export class SlotOutlines {
  readonly slots = input.required<readonly Slot[]>();
  readonly selected = input<string | null>(null);
  readonly chosen = output<Slot>();
  readonly opened = output<Slot>();
  readonly removed = output<Slot>();
  readonly copied = output<Slot>();
  protected readonly size = sizeText;
  /** Wide ones first, as they stand in the book. */
  protected readonly ordered = computed(() =>
    [...this.slots()].sort((a, b) => b.width * b.height - a.width * a.height || a.name.localeCompare(b.name)),
  );
  protected readonly scale = computed(() =>
    Math.min(1, WIDEST / Math.max(1, ...this.slots().map((s) => Math.max(s.width, s.height * 1.4)))),
  );

  protected radius({ shape }: Slot): string | null {
    if (shape.kind === 'ellipse') return '50%';
    return shape.kind === 'rounded' ? `${Math.max(2, shape.radius * this.scale())}px` : null;
  }

  /** The one thing most worth knowing beside the size. */
  protected about(s: Slot): string {
    const size = s.anyWidth ? `${Math.round(s.height)} high, any width` : sizeText(s);
    const more = s.site
      ? s.site
      : s.rowShows > 1
        ? `${s.rowShows} shown`
        : s.oneOfSeveral
          ? 'one of several shown'
          : s.wants === 'address'
            ? 'wants an address'
            : s.darkening?.on
              ? 'darkened by the page'
              : s.keepsTransparency
                ? 'transparent'
                : '';
    // A name that says the size need not be followed by it.
    const said = s.name.includes(sizeText(s)) ? '' : size;
    return [said, more || (said ? '' : 'as commonly used')].filter(Boolean).join(', ');
  }

  protected key(event: KeyboardEvent, slot: Slot): void {
    if (event.key === 'Delete') {
      event.preventDefault();
      this.removed.emit(slot);
    } else if (event.key.toLowerCase() === 'd' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      this.copied.emit(slot);
    }
  }
}
