import { Injectable, computed, inject, signal } from '@angular/core';
import { deviceHeights, devices, switchedDarkening, type Device, type Slot } from '@bright-slot/core';
import { PageColoursService } from '../../document/page-colours.service';
import { LivePicture } from '../../document/live-picture.service';
import { SlotChanges } from '../../document/slot-changes.service';
import { Workbench } from '../../document/workbench';
import { OthersAtRandom } from './others-at-random';
import { Pages, type Likeness } from '../../page/page-likeness';
import { SlotBook } from '../../storage/slot-book.service';

const names: Record<Device, string> = { desktop: 'Desktop', tablet: 'Tablet', phone: 'Phone' };

/** The page of the frame in hand as three devices show it, the graphic in it. */
@Injectable({ providedIn: 'root' })
export class PageViews {
  private readonly workbench = inject(Workbench);
  private readonly pages = inject(Pages);
  private readonly book = inject(SlotBook);
  private readonly changes = inject(SlotChanges);
  readonly colours = inject(PageColoursService);
  readonly random = inject(OthersAtRandom);
  readonly picture = inject(LivePicture);
  /** Whether the stage is the page, and which device stands alone; null for all three. */
  readonly open = signal(false);
  readonly alone = signal<Device | null>(null);
  /** The page's darkening the other way than the slot has it. */
  readonly switched = signal(false);
  private readonly slot = computed(() => this.workbench.frame()?.slot ?? null);
  readonly canSwitch = computed(() => !!this.slot()?.darkening?.switchable);
  readonly darkened = computed(() => (this.slot()?.darkening?.on ?? false) !== this.switched());

  /** The graphic, small and roughly, for the pages beside the fit report. */
  private readonly small = signal<string | null>(null);

  showSmall(blob: Blob | null): void {
    const before = this.small();
    this.small.set(blob && URL.createObjectURL(blob));
    // Whoever shows it still has a moment to take the next.
    if (before) setTimeout(() => URL.revokeObjectURL(before), 1000);
  }

  /** Where a screenshot of the page is measured, to come back from; null for a slot that is in no book. */
  readonly ownLink = computed(() => {
    const [slot, graphic] = [this.slot(), this.workbench.graphic()];
    if (!slot || !graphic || !this.book.byId().has(slot.id)) return null;
    return { way: 'screenshot', page: slot.id, graphic: graphic.id };
  });

  /** The whole set that the frame in hand is of, each place with its own picture; null for one frame, and on a page of the person's own. */
  private together(shown: Slot, picture: { url: string; alt: string } | null): Likeness | null {
    const frames = this.workbench.graphic()?.frames ?? [];
    if (frames.length < 2 || !this.open() || this.random.shown() || this.colours.tried()) return null;
    const inHand = this.workbench.frame()?.id;
    const others = this.picture.others();
    return this.pages.together(
      frames.map(({ id, slot }) => {
        if (id === inHand) return { slot: shown, picture };
        const url = others.get(id);
        return { slot, picture: url ? { url, alt: '' } : null };
      }),
    );
  }

  readonly views = computed(() => {
    const slot = this.slot();
    if (!slot) return [];
    const url = this.random.shown()?.url ?? (this.open() ? this.picture.url() : null) ?? this.small();
    // As the page has it by now, which may not be what the graphic was made for.
    const now = this.changes.nowOf(this.workbench.graphic()!.id, this.workbench.frame()!) ?? slot;
    const shown = (this.switched() && switchedDarkening(now)) || now;
    const tried = this.colours.tried() ?? undefined;
    const picture = url ? { url, alt: '' } : null;
    return devices.map((device) => ({
      device,
      name: names[device],
      page: this.together(shown, picture) ?? this.pages.of(shown, picture, device, tried),
      pageWidth: this.pages.width(slot, device, tried),
      screenHeight: deviceHeights[device],
    }));
  });
}
