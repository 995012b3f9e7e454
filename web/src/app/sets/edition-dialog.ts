import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  computed,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatMenu, MatMenuContent, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { frameFor, rowsForPhotos, withPhotos, wholeCanvas, type Graphic, type PlacedPicture } from '@bright-slot/core';
import { PlacedPictures } from '../document/placed-pictures.service';
import { ShelfService, type ShelfItem } from '../media/shelf/shelf.service';
import { JobStopped } from '../pixels/pixel-client';
import { PixelsService } from '../pixels/pixels.service';
import { Icon } from '../ui/icon';
import type { EditionPlace } from './editions';

/** What a next edition is asked for with. */
export interface EditionAsked {
  readonly name: string;
  /** The photos there are, in their order. */
  readonly places: readonly EditionPlace[];
  /** The one canvas they are on; null where each is on a tile of its own. */
  readonly graphic: Graphic | null;
  /** Photos that were given already. */
  readonly files: readonly File[];
  /** How many files it has, and whether they can go to a site. */
  readonly pieces: number;
  readonly site: boolean;
}

/** What was chosen: photos by place (null keeps what is there), and what is done with the files. */
export interface EditionChosen {
  readonly photos: readonly (PlacedPicture | null)[];
  readonly then: 'save' | 'send' | 'nothing';
}

/** How wide the canvas is painted with its new photos, px. */
const SEEN = 700;

/** Next week's photos for a set: each beside the one it takes the place of, looked at before anything is made. */
@Component({
  selector: 'bs-edition-dialog',
  imports: [Icon, MatDialogModule, MatMenu, MatMenuContent, MatMenuItem, MatMenuTrigger],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>New edition of {{ data.name }}</h2>
    <mat-dialog-content>
      <p class="quiet small-text">
        Layout, words and files stay as they are; give it new photos. What stands now is kept, and put back in one
        press.
      </p>
      <p class="acts">
        <button type="button" class="button" (click)="picker.click()">
          <bs-icon name="plus" />Photos from this computer …
        </button>
        <input
          #picker
          type="file"
          multiple
          class="visually-hidden"
          accept="image/*"
          tabindex="-1"
          aria-label="Photos from this computer"
          (change)="bring(picker.files); picker.value = ''"
        />
        <span class="quiet small-text" role="status">{{ said() }}</span>
      </p>
      @if (problem()) {
        <p class="problem-text" role="alert">{{ problem() }}</p>
      }
      @if (picture(); as url) {
        <img class="canvas" [src]="url" alt="The canvas with its new photos" />
      }
      <ul>
        @for (p of data.places; track $index) {
          <li>
            <span class="pair">
              <img [src]="thumbOf(p.asset)" alt="" />
              <span aria-hidden="true">→</span>
              @if (chosen()[$index]; as c) {
                <img [src]="thumbOf(c.asset)" alt="" />
              } @else {
                <span class="same quiet small-text">stays</span>
              }
            </span>
            <span class="what small-text">
              @if (p.word) {
                <strong>{{ p.word }}</strong><br />
              }
              <span class="quiet"
                >{{ p.photo || 'no photo' }}{{ chosen()[$index] ? ' → ' + chosen()[$index]!.name : '' }}</span
              >
            </span>
            <button
              type="button"
              class="button small"
              [matMenuTriggerFor]="shelf"
              [matMenuTriggerData]="{ at: $index }"
              [attr.aria-label]="'Another photo for ' + (p.word || p.photo || 'place ' + ($index + 1))"
            >
              Choose
            </button>
          </li>
        }
      </ul>
      <mat-menu #shelf="matMenu" class="photo-menu">
        <ng-template matMenuContent let-at="at">
          <button mat-menu-item type="button" (click)="keep(at)">Keep what is there</button>
          @for (i of photos(); track i.id) {
            <button mat-menu-item type="button" (click)="take(at, i)">
              <span class="photo-choice"><img [src]="i.thumb" alt="" loading="lazy" />{{ i.title }}</span>
            </button>
          }
        </ng-template>
      </mat-menu>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button type="button" class="button" mat-dialog-close>Cancel</button>
      <button type="button" class="button" [disabled]="!ready()" (click)="make('nothing')">Make it</button>
      <button type="button" class="button" [class.main]="!data.site" [disabled]="!ready()" (click)="make('save')">
        Make it and save {{ files() }}
      </button>
      @if (data.site) {
        <button type="button" class="button main" [disabled]="!ready()" (click)="make('send')">
          Make it and put {{ data.pieces === 1 ? 'it' : 'all ' + data.pieces }} on the site
        </button>
      }
    </mat-dialog-actions>
  `,
  styles: `
    p {
      margin: 0 0 10px;
    }
    .acts {
      display: flex;
      align-items: center;
      gap: 12px;
      position: relative;
    }
    .canvas {
      display: block;
      max-width: 100%;
      max-height: 220px;
      margin-bottom: 12px;
      border: 1px solid var(--hairline);
    }
    mat-dialog-actions {
      gap: 8px;
    }
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      display: flex;
      align-items: center;
      gap: 14px;
      padding: 7px 2px;
      border-top: 1px solid var(--hairline);
    }
    .pair {
      display: flex;
      align-items: center;
      gap: 8px;
      flex: none;
      width: 204px;
    }
    .pair img,
    .same {
      width: 84px;
      height: 54px;
      object-fit: cover;
      background: var(--ground-deep);
      border-radius: 3px;
    }
    .same {
      display: flex;
      align-items: center;
      justify-content: center;
    }
    .what {
      flex: 1;
      min-width: 0;
      overflow-wrap: anywhere;
    }
  `,
})
export class EditionDialog {
  private readonly dialog = inject<MatDialogRef<EditionDialog, EditionChosen>>(MatDialogRef);
  protected readonly data = inject<EditionAsked>(MAT_DIALOG_DATA);
  private readonly placing = inject(PlacedPictures);
  private readonly shelf = inject(ShelfService);
  private readonly pixels = inject(PixelsService);
  private readonly items = signal<readonly ShelfItem[]>([]);
  protected readonly photos = computed(() => this.items().filter((i) => !i.transparent && !i.sheet && !i.vector));
  protected readonly chosen = signal<readonly (PlacedPicture | null)[]>(this.data.places.map(() => null));
  protected readonly problem = signal('');
  protected readonly busy = signal('');
  protected readonly picture = signal<string | null>(null);
  protected readonly files = computed(() => (this.data.pieces === 1 ? 'its file' : `${this.data.pieces} files`));
  protected readonly ready = computed(() => !this.busy() && this.chosen().some((c) => c !== null));
  protected readonly said = computed(() => {
    if (this.busy()) return this.busy();
    const count = this.chosen().filter((c) => c !== null).length;
    return count ? `${count} of ${this.chosen().length} ${count === 1 ? 'is' : 'are'} new.` : '';
  });

  constructor() {
    void this.shelf.list().then(({ items }) => this.items.set(items));
    if (this.data.files.length) void this.bring(this.data.files);
    effect((cleanUp) => {
      const { graphic } = this.data;
      const photos = this.chosen();
      if (!graphic || photos.every((p) => p === null)) return;
      const stop = new AbortController();
      untracked(() => void this.paint(graphic, photos, stop.signal));
      cleanUp(() => stop.abort());
    });
    inject(DestroyRef).onDestroy(() => {
      const url = this.picture();
      if (url) URL.revokeObjectURL(url);
    });
  }

  protected thumbOf(asset: string | null): string {
    return this.items().find((i) => i.hash === asset)?.thumb ?? '';
  }

  /** Photos from this computer: by their names where the tiles are called so, else one after the other. */
  protected async bring(files: FileList | readonly File[] | null): Promise<void> {
    const list = [...(files ?? [])];
    const brought: PlacedPicture[] = [];
    this.problem.set('');
    for (const [i, file] of list.entries()) {
      this.busy.set(`Bringing in ${i + 1} of ${list.length} …`);
      const found = await this.placing.file(file);
      if (found.ok) brought.push(found.value);
      else this.problem.set(found.problem.message);
    }
    this.items.set((await this.shelf.list()).items);
    const rows = rowsForPhotos(
      this.data.places.map((p) => p.word),
      brought,
    );
    const next = [...this.chosen()];
    for (const [i, photo] of brought.entries()) {
      const at = rows[i] ?? null;
      if (at !== null) next[at] = photo;
    }
    this.chosen.set(next);
    this.busy.set('');
    const over = brought.length - rows.filter((r) => r !== null).length;
    if (over > 0)
      this.problem.set(
        `${over} more than there are places for: ${over === 1 ? 'it is' : 'they are'} among your photos.`,
      );
  }

  protected async take(at: number, item: ShelfItem): Promise<void> {
    this.busy.set('Fetching the photo …');
    const found = await this.placing.of(item);
    this.busy.set('');
    if (!found.ok) return this.problem.set(found.problem.message);
    this.items.update((all) => all.map((i) => (i.id === item.id ? { ...i, hash: found.value.asset } : i)));
    this.set(at, found.value);
  }

  protected keep(at: number): void {
    this.set(at, null);
  }

  private set(at: number, photo: PlacedPicture | null): void {
    this.chosen.update((c) => c.map((old, i) => (i === at ? photo : old)));
  }

  protected make(then: EditionChosen['then']): void {
    this.dialog.close({ photos: this.chosen(), then });
  }

  /** The canvas as it would be. */
  private async paint(graphic: Graphic, photos: readonly (PlacedPicture | null)[], stop: AbortSignal): Promise<void> {
    const next = withPhotos(graphic, photos);
    const whole = frameFor('whole', wholeCanvas(graphic).rect, graphic.frames[0]!.slot);
    try {
      const shown = { ...next, frames: [whole] };
      const blob = await this.pixels.miniature(
        shown,
        whole,
        Math.min(2 * SEEN, Math.round(graphic.canvas.width)),
        stop,
      );
      if (stop.aborted) return;
      const before = this.picture();
      this.picture.set(URL.createObjectURL(blob));
      if (before) URL.revokeObjectURL(before);
    } catch (error) {
      if (!(error instanceof JobStopped)) this.problem.set(error instanceof Error ? error.message : String(error));
    }
  }
}
