import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatOption, MatSelect } from '@angular/material/select';
import { RouterLink } from '@angular/router';
import { clamp, luminance, weightText, type Slot } from '@bright-slot/core';
import { HouseStyleService } from '../../storage/house-style.service';
import { Icon } from '../../ui/icon';
import { GraphicsRepository } from '../../storage/graphics-repository';
import { ShelfService, type ShelfChoice, type ShelfItem } from './shelf.service';
import { tickedOf, valueOf } from '../../ui/event-value';

type Kind = 'all' | 'photos' | 'transparent' | 'ornaments' | 'page';

/** The photo shelf: what there is, what is known of it, and the way into the graphic. */
@Component({
  selector: 'bs-shelf-dialog',
  imports: [MatDialogModule, MatSelect, MatOption, Icon, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './shelf-dialog.html',
  styleUrl: './shelf-dialog.scss',
})
export class ShelfDialog {
  protected readonly tickedOf = tickedOf;
  protected readonly valueOf = valueOf;
  private readonly dialog = inject<MatDialogRef<ShelfDialog, ShelfChoice>>(MatDialogRef);
  private readonly given = inject<{ slot: Slot }>(MAT_DIALOG_DATA);
  private readonly shelf = inject(ShelfService);
  private readonly repository = inject(GraphicsRepository);
  private readonly house = inject(HouseStyleService);

  protected readonly kinds: readonly { id: Kind; name: string }[] = [
    { id: 'all', name: 'All' },
    { id: 'photos', name: 'Photos' },
    { id: 'transparent', name: 'Transparent' },
    { id: 'ornaments', name: 'Ornaments' },
    { id: 'page', name: 'On the page now' },
  ];
  protected readonly items = signal<readonly ShelfItem[] | null>(null);
  private readonly ornaments = signal<readonly ShelfItem[]>([]);
  private readonly page = signal<ShelfItem | null>(null);
  protected readonly problem = signal('');
  protected readonly words = signal('');
  protected readonly kind = signal<Kind>('all');
  protected readonly usedIn = signal('');
  protected readonly chosen = signal<ShelfItem | null>(null);
  protected readonly fetching = signal<string | null>(null);

  protected readonly graphics = computed(() => {
    const all = new Map((this.items() ?? []).flatMap((i) => i.usedIn.map((g) => [g.id, g] as const)));
    return [...all.values()].sort((a, b) => a.name.localeCompare(b.name));
  });

  protected readonly found = computed(() => {
    const words = this.words().toLowerCase().replace(/[×]/g, 'x').split(/\s+/).filter(Boolean);
    return this.ofKind().filter((i) => {
      if (this.usedIn() && !i.usedIn.some((g) => g.id === this.usedIn())) return false;
      const text = `${i.title} ${i.width}x${i.height} ${i.credit} ${i.licence}`.toLowerCase();
      return words.every((w) => text.includes(w));
    });
  });

  private readonly ofKind = computed<readonly ShelfItem[]>(() => {
    const all = this.items() ?? [];
    const page = this.page();
    switch (this.kind()) {
      case 'all':
        return all;
      case 'photos':
        return all.filter((i) => !i.transparent);
      case 'transparent':
        return all.filter((i) => i.transparent);
      case 'ornaments':
        return this.ornaments();
      case 'page':
        return page ? [page] : [];
    }
  });

  constructor() {
    void this.shelf.list().then(({ items, problem }) => {
      this.items.set(items);
      this.problem.set(problem);
    });
    void this.shelf.ornaments().then((list) => this.ornaments.set(list));
    void this.shelf.onThePage(this.given.slot).then((item) => this.page.set(item));
  }

  protected sizeOf(p: ShelfItem): string {
    return p.vector ? 'a drawing, sharp at any size' : `${p.width} × ${p.height} px`;
  }

  protected weightOf(p: ShelfItem): string {
    return weightText(p.bytes);
  }

  protected whereOf(p: ShelfItem): string {
    return { own: 'Yours, kept in this browser', site: 'The site’s shelf', page: p.title, ornament: 'Ornaments' }[
      p.from
    ];
  }

  protected usesOf(p: ShelfItem): string {
    return p.usedIn.map((g) => g.name).join(', ') || 'no graphic yet';
  }

  /** Arrow keys go from picture to picture, as they stand. */
  protected arrows(event: KeyboardEvent): void {
    const own = event.currentTarget as HTMLElement;
    const all = [...own.closest('ul')!.querySelectorAll<HTMLElement>('button')];
    const at = all.indexOf(own);
    const first = all[0];
    if (at < 0 || !first) return;
    if (event.key === 'Enter') {
      event.preventDefault();
      const item = this.chosen();
      if (item) void this.add(item);
      return;
    }
    const across = all.filter((b) => b.offsetTop === first.offsetTop).length;
    const by = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -across, ArrowDown: across }[event.key];
    if (!by) return;
    event.preventDefault();
    all[clamp(at + by, 0, all.length - 1)]?.focus();
  }

  protected async describe(
    p: ShelfItem,
    change: { licence?: string; credit?: string; showCredit?: boolean },
  ): Promise<void> {
    await this.repository.describeAsset(p.hash!, change);
    const told = { ...p, ...change };
    this.items.update((all) => (all ?? []).map((i) => (i.id === p.id ? told : i)));
    this.chosen.set(told);
  }

  protected async add(p: ShelfItem): Promise<void> {
    this.fetching.set(p.id);
    const choice = await this.shelf.choose(p);
    this.fetching.set(null);
    if (!choice.ok) this.problem.set(choice.problem.message);
    else if (p.from === 'ornament' && 'file' in choice.value) {
      // A colour of the house that shows on a pale ground.
      const colour = this.house.style().colours.find((c) => luminance(c.colour) < 0.3)?.colour ?? '#1f2a30';
      this.dialog.close({ ...choice.value, tint: { kind: 'flat', colour } });
    } else this.dialog.close(choice.value);
  }
}
