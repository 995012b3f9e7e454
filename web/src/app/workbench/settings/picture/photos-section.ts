import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  OnDestroy,
  computed,
  inject,
  linkedSignal,
  signal,
} from '@angular/core';
import {
  clamp,
  BUSY,
  isPicture,
  bySuit,
  filePixels,
  intersection,
  layoutOf,
  pictureGeometry,
  suitOf,
  swapped,
  topDensity,
  wordsBounds,
  type Box,
  type Edit,
  type Layer,
  type PictureLayer,
  type Suit,
} from '@bright-slot/core';
import { ShelfService, type ShelfItem, type Subject } from '../../../media/shelf/shelf.service';
import { replacement } from '../../../document/new-layers';
import { TypeService } from '../../../type/type.service';
import { JobStopped } from '../../../pixels/pixel-client';
import { PictureSection } from './section';

interface Candidate extends Subject {
  readonly item: ShelfItem;
  readonly suit: Suit;
}

/**
 * Another photo in this one's place: every photo as it would be cropped, those first that keep their subject and
 * have the pixels. Arrow keys try each in the graphic; all of the trying is one step.
 */
@Component({
  selector: 'bs-photos-section',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (problem()) {
      <p class="problem-text small-text" role="alert">{{ problem() }}</p>
    }
    @if (candidates().length) {
      <div class="strip" role="listbox" aria-label="Photos, as this frame would crop them">
        @for (c of candidates(); track c.item.id; let i = $index) {
          <button
            type="button"
            role="option"
            [style.width.px]="thumb().card + 2"
            [attr.aria-selected]="c.item.id === tried()"
            [tabIndex]="c.item.id === (tried() ?? candidates()[0]?.item?.id) ? 0 : -1"
            [disabled]="locked()"
            [attr.aria-label]="c.item.title + ', ' + judged(c)"
            [title]="judged(c)"
            (click)="take(c)"
            (keydown)="key($event)"
          >
            <span class="band"
              ><span class="crop" [style.width.px]="thumb().width" [style.height.px]="thumb().height"
                ><img
                  [src]="c.item.thumb"
                  alt=""
                  [style.object-position]="positionOf(c)"
                  [style.object-fit]="c.item.transparent ? 'contain' : 'cover'" /></span
            ></span>
            <span class="title">{{ c.item.title }}</span>
            <span class="judged">{{ judged(c) }}</span>
          </button>
        }
      </div>
    } @else {
      <p class="note" role="status">{{ looking() }}</p>
    }
    <p class="note told" role="status">{{ trying() }}</p>
  `,
  styles: `
    @use 'picture';
    .told {
      line-height: 1.2;
    }
    .strip {
      display: flex;
      gap: 10px;
      overflow-x: auto;
      padding: 3px 3px 4px;
      scrollbar-width: thin;
    }
    button {
      flex: none;
      display: flex;
      flex-direction: column;
      align-items: flex-start;
      gap: 1px;
      padding: 0 0 4px;
      border: 1px solid var(--border);
      border-radius: var(--corner);
      background: var(--surface);
      font: inherit;
      color: var(--ink);
      cursor: pointer;
      overflow: hidden;
      text-align: left;
    }
    button[aria-selected='true'] {
      border-color: var(--ink);
      box-shadow: inset 0 4px 0 var(--light);
    }
    .band {
      align-self: stretch;
      display: flex;
      justify-content: center;
      min-height: 30px;
      align-items: center;
      background: var(--ground-deep);
    }
    .crop {
      display: block;
      overflow: hidden;
    }
    img {
      width: 100%;
      height: 100%;
      display: block;
    }
    .title,
    .judged {
      padding: 0 7px;
      font-size: 12px;
      line-height: 1.25;
      max-width: 100%;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .title {
      font-weight: 600;
    }
    .judged {
      color: var(--ink-soft);
      font-size: 11.5px;
    }
    :host-context(.beside) .strip {
      flex-wrap: wrap;
      overflow: visible;
    }
  `,
})
export class PhotosSection extends PictureSection implements OnDestroy {
  private readonly shelf = inject(ShelfService);
  private readonly type = inject(TypeService);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly problem = signal('');
  protected readonly looking = signal('Looking at every photo …');
  protected readonly trying = signal(
    'Press one, or go through them with the arrow keys. Everything else stays as it is.',
  );
  private readonly found = signal<readonly { item: ShelfItem; subject: Subject }[]>([]);
  protected readonly tried = linkedSignal<string, string | null>({
    source: () => this.layer().id,
    computation: (id, before) => (before?.source === id ? before.value : null),
  });
  private running: AbortController | undefined;
  /** The layer when the trying began, and as it was last left. */
  private first: PictureLayer | undefined;
  private last: Layer | undefined;

  /** The frame that is to be filled, in the file's px. */
  private readonly pixels = computed(() => {
    const { shown } = pictureGeometry(this.layer(), this.canvas());
    const { slot } = this.workbench.frame()!;
    const density = topDensity(slot);
    if (this.layer().place.mode === 'cover') return filePixels(slot, density);
    return { width: Math.ceil(shown.width * density), height: Math.ceil(shown.height * density) };
  });

  /** Where words stand over it, in shares of what is to be filled. */
  private readonly words = computed<readonly Box[]>(() => {
    const layer = this.layer();
    const shaper = this.type.shaper();
    const graphic = this.workbench.graphic();
    if (!shaper || !graphic) return [];
    const { shown } = pictureGeometry(layer, this.canvas());
    const frame = layer.place.mode === 'cover' ? { x: 0, y: 0, ...this.canvas() } : shown;
    const above = graphic.layers.slice(graphic.layers.findIndex((l) => l.id === layer.id) + 1);
    return above.flatMap((l) => {
      const seen = l.role === 'words' && l.visible ? intersection(wordsBounds(l, layoutOf(l, shaper)), frame) : null;
      return seen
        ? [
            {
              x: (seen.x - frame.x) / frame.width,
              y: (seen.y - frame.y) / frame.height,
              width: seen.width / frame.width,
              height: seen.height / frame.height,
            },
          ]
        : [];
    });
  });

  protected readonly candidates = computed<readonly Candidate[]>(() =>
    bySuit(
      this.found().map(({ item, subject }) => ({
        item,
        ...subject,
        suit: suitOf({ natural: item, ...subject }, this.pixels(), this.words()),
      })),
    ),
  );

  protected readonly thumb = computed(() => {
    const { width, height } = this.pixels();
    const high = Math.min(46, 230 * (height / width));
    return { width: (high * width) / height, height: high, card: Math.max(136, (high * width) / height) };
  });

  constructor() {
    super();
    void this.load();
  }

  ngOnDestroy(): void {
    this.running?.abort();
  }

  private async load(): Promise<void> {
    const { items, problem } = await this.shelf.list();
    this.problem.set(problem);
    const logo = this.layer().role === 'logo';
    const suitable = items.filter((i) => logo || (!i.transparent && !i.vector && !i.sheet));
    const found: { item: ShelfItem; subject: Subject }[] = [];
    for (const item of suitable) {
      this.looking.set(`Looking at every photo: ${found.length + 1} of ${suitable.length} …`);
      found.push({ item, subject: await this.shelf.subjectOf(item) });
    }
    // All at once: a list in order of what suits must not move while one of it is being pressed.
    this.looking.set(suitable.length || problem ? '' : 'There is no photo on the shelf yet.');
    this.found.set(found);
  }

  protected positionOf({ item, suit }: Candidate): string {
    const share = (from: number, length: number, whole: number) =>
      whole - length < 1e-6 ? 50 : (from / (whole - length)) * 100;
    const { x, y, width, height } = suit.part;
    return `${share(x, width, item.width)}% ${share(y, height, item.height)}%`;
  }

  protected judged({ suit, item }: Candidate): string {
    if (!item.vector && suit.scale > 1.001) return `too small, drawn at ${Math.round(suit.scale * 100)} %`;
    const subject =
      suit.kept < 0.5
        ? 'cuts its subject'
        : suit.kept < 0.97
          ? `cuts ${Math.round((1 - suit.kept) * 100)} % of its subject`
          : 'keeps its subject';
    return suit.busy !== null && suit.busy > BUSY ? `${subject}, busy under the words` : subject;
  }

  protected key(event: KeyboardEvent): void {
    const list = this.candidates();
    const at = list.findIndex((c) => c.item.id === this.tried());
    const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    if (!by || !list.length) return;
    event.preventDefault();
    event.stopPropagation();
    const next = at < 0 ? (by > 0 ? 0 : list.length - 1) : clamp(at + by, 0, list.length - 1);
    this.host.nativeElement.querySelectorAll<HTMLElement>('[role=option]')[next]?.focus();
    void this.take(list[next]!);
  }

  /** Puts a photo in this one's place; what follows joins the same step. */
  protected async take(c: Candidate): Promise<void> {
    this.running?.abort();
    const running = (this.running = new AbortController());
    const layer = this.layer();
    this.tried.set(c.item.id);
    this.trying.set(`Trying ${c.item.title} …`);
    try {
      const asset = await this.shelf.bringIn(c.item, { signal: running.signal, toCanvas: true });
      if (running.signal.aborted) return;
      if (!asset.ok) {
        this.trying.set(asset.problem.message);
        return;
      }
      const by = replacement(asset.value, c.focus);
      const { name } = by;
      const now = this.workbench.graphic()?.layers.find((l) => l.id === layer.id);
      if (!now || !isPicture(now)) return;
      // From the photo that was there at first, so that going on and back again leads to the same.
      if (now !== this.last) this.first = now;
      const edit: Edit = {
        type: 'replace-layer',
        layer: swapped(this.first ?? now, by, this.canvas()),
        name: `${name} in place of the photo`,
        merge: `photo:${layer.id}`,
      };
      this.workbench.edit(edit);
      this.last = this.workbench.graphic()?.layers.find((l) => l.id === layer.id);
      this.trying.set(`${name}: ${this.judged(c)}.`);
    } catch (error) {
      if (!(error instanceof JobStopped)) this.trying.set(error instanceof Error ? error.message : String(error));
    }
  }
}
