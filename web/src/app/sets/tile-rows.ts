import { CdkDrag, CdkDragHandle, CdkDropList, type CdkDragDrop } from '@angular/cdk/drag-drop';
import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  Injector,
  afterNextRender,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { MatMenu, MatMenuContent, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import { contentLetters, weightText } from '@bright-slot/core';
import type { ShelfItem } from '../media/shelf/shelf.service';
import { Icon } from '../ui/icon';
import { SetSession } from './set-session';
import { TILE_HEIGHT, TILE_WIDEST, tileWidth } from './tile-size';
import { TileTable } from './tile-table';

/** Rows that are there at once, and so many more whenever nothing else is to be done, or after so long, ms. */
const ROWS = 8;
const MORE = 2;
const LATEST = 100;
/** Not every browser says when it has nothing to do. */
const whenIdle = (work: () => void) =>
  'requestIdleCallback' in window ? requestIdleCallback(work, { timeout: LATEST }) : setTimeout(work);

/** The table a set's tiles are made from. What a row holds is drawn once it is near what is seen: of a hundred, ten. */
@Component({
  selector: 'bs-tile-rows',
  imports: [
    CdkDrag,
    CdkDragHandle,
    CdkDropList,
    Icon,
    MatMenu,
    MatMenuContent,
    MatMenuItem,
    MatMenuTrigger,
    RouterLink,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './tile-rows.html',
  styleUrls: ['./set-table.scss', './tile-rows.scss'],
})
export class TileRows {
  /** How many of its tiles the page shows. */
  readonly shown = input.required<number>();
  /** What the file of a tile is called. */
  readonly names = input.required<(i: number) => string>();
  /** Whether tiles have a second line. */
  readonly withLine = input.required<boolean>();
  readonly busy = input.required<boolean>();
  /** Asks for photos from this computer. */
  readonly ask = output();
  /** Enter was pressed in the last row. */
  readonly last = output();
  protected readonly session = inject(SetSession);
  protected readonly table = inject(TileTable);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly injector = inject(Injector);
  protected readonly weight = weightText;
  protected readonly most = { word: contentLetters.title, line: contentLetters.line };
  protected readonly high = TILE_HEIGHT;
  protected readonly tileWidth = tileWidth;
  /** A row that is out of sight is as high as it will be. */
  protected readonly tall = TILE_HEIGHT + 10;
  /** How wide the columns are: order, tile, word, line, photo, file, changed by hand, fit, more. A set may have no tile yet. */
  protected readonly columns = computed(() => {
    const [member] = this.session.members();
    const pictured = 10 + (member ? tileWidth(member.frame.slot) : TILE_WIDEST);
    const written = 'minmax(0, 1fr) '.repeat(this.withLine() ? 3 : 2);
    return `37px ${pictured}px ${written} minmax(0, 1.35fr) 118px 80px 40px`;
  });
  /** How many rows there are: of many a few at a time, so that the page stays at hand. */
  private readonly drawn = signal(ROWS);
  protected readonly rows = computed(() => this.session.rows().slice(0, this.drawn()));

  constructor() {
    effect(() => {
      if (this.drawn() < this.session.rows().length) whenIdle(() => this.drawn.update((n) => n + MORE));
    });
  }

  /** Goes to the word of a row, to write in it: where it is not drawn yet, once it is. */
  write(i: number): void {
    this.focus(i, 'input.word');
  }

  private focus(i: number, css: string): void {
    const row = this.host.nativeElement.querySelector(`tr[data-row="${i}"]`);
    const wanted = row?.querySelector<HTMLElement>(css);
    if (wanted) return wanted.focus();
    if (i >= this.session.rows().length) return;
    row?.scrollIntoView({ block: 'nearest' });
    afterNextRender(() => this.focus(i, css), { injector: this.injector });
  }

  protected photoOf(i: number): string {
    return this.session.rows()[i]?.photo?.name ?? '';
  }

  protected async setWord(i: number, field: HTMLInputElement): Promise<void> {
    await this.table.setWord(i, field.value);
    field.value = this.session.rows()[i]?.word ?? '';
  }

  /** Enter goes on to the next row's word; in the last it is done, and another row is a press away. */
  protected enter(i: number, event: Event): void {
    event.preventDefault();
    if (i + 1 < this.session.rows().length) this.write(i + 1);
    else this.last.emit();
  }

  protected choose(i: number, item: ShelfItem): void {
    void this.table.setPhoto(i, item);
  }

  protected drop({ previousIndex, currentIndex }: CdkDragDrop<unknown>): void {
    void this.table.move(previousIndex, currentIndex);
  }

  /** A row's place by the keyboard. */
  protected async nudge(i: number, by: -1 | 1): Promise<void> {
    if (await this.table.move(i, i + by)) setTimeout(() => this.focus(i + by, '.handle'));
  }
}

/** The row of a set's table that something stands in. */
export function rowAt(element: Element): number | undefined {
  const row = element.closest('tr[data-row]')?.getAttribute('data-row');
  return row === undefined || row === null ? undefined : Number(row);
}
