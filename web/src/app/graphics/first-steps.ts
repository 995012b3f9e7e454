import { ChangeDetectionStrategy, Component, DestroyRef, computed, inject, input, output, signal } from '@angular/core';
import {
  cutText,
  limits,
  logoColours,
  plainHouseStyle,
  sizeText,
  slotGroups,
  slotsToStart,
  type Demo,
  type Slot,
} from '@bright-slot/core';
import { HouseStyleService } from '../storage/house-style.service';
import { DemoService } from '../document/demo.service';
import { PicturesService } from '../media/pictures.service';
import { PixelsService } from '../pixels/pixels.service';
import { drawnWhole } from '../pixels/vectors';
import type { AssetRecord } from '../storage/database';
import { FileDrop } from '../ui/file-drop';
import { Icon } from '../ui/icon';
import { SelectField } from '../ui/select-field';
import { valueOf } from '../ui/event-value';

const LATER = 'later';
/** So many colours of a logo are shown; more are shades of the same. */
const MOST_COLOURS = 6;

/** What is asked once, of a fresh browser: whether to look round in the demo or to begin with one's own business. */
@Component({
  selector: 'bs-first-steps',
  imports: [Icon, SelectField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  hostDirectives: [FileDrop],
  templateUrl: './first-steps.html',
  styleUrl: './first-steps.scss',
})
export class FirstSteps {
  /** The demo there is to look round in, if any. */
  readonly demo = input.required<Pick<Demo, 'about' | 'call'> | null>();
  /** It is decided; with the slot that the first graphic is for. */
  readonly decided = output<Slot | null>();
  protected readonly valueOf = valueOf;
  private readonly demos = inject(DemoService);
  private readonly house = inject(HouseStyleService);
  private readonly pictures = inject(PicturesService);
  private readonly pixels = inject(PixelsService);
  protected readonly progress = this.demos.progress;
  protected readonly problem = signal('');
  protected readonly busy = signal(false);

  protected readonly business = signal('');
  protected readonly address = signal('');
  protected readonly logo = signal<{ asset: AssetRecord; url: string } | null>(null);
  /** The logo's colours, and which of them are wanted. */
  protected readonly colours = signal<readonly { colour: string; on: boolean }[]>([]);
  protected readonly slot = signal<string>(LATER);
  protected readonly slots = slotGroups
    .flatMap((group) => slotsToStart.filter((s) => s.group === group))
    .map((s) => ({ id: s.id, name: s.name.includes('×') ? s.name : `${s.name}, ${sizeText(s)}` }))
    .concat({ id: LATER, name: 'None yet' });
  protected readonly most = { business: 120, address: limits.name };
  protected readonly wanted = computed(() => this.colours().filter((c) => c.on).length);

  constructor() {
    inject(FileDrop).files.subscribe(({ files }) => void this.take(files));
    inject(DestroyRef).onDestroy(() => this.dropLogo());
  }

  protected async lookRound(): Promise<void> {
    this.busy.set(true);
    this.problem.set('');
    const brought = await this.demos.bring();
    this.busy.set(false);
    if (brought.ok) this.decided.emit(null);
    else this.problem.set(`${brought.problem.message} Nothing of your own is affected.`);
  }

  protected async take(files: ArrayLike<File> | null): Promise<void> {
    const file = files?.[0];
    if (!file) return;
    this.busy.set(true);
    this.problem.set('');
    const brought = await this.pictures.bringIn(file);
    if (brought.ok) await this.show(brought.value);
    else this.problem.set(brought.problem.message);
    this.busy.set(false);
  }

  private async show(asset: AssetRecord): Promise<void> {
    this.dropLogo();
    this.logo.set({ asset, url: URL.createObjectURL(asset.thumb ?? asset.blob) });
    const { hash, width, height, type, thumb, blob } = asset;
    const seen = type === 'svg' ? await drawnWhole(hash, { width, height }, 96).catch(() => null) : (thumb ?? blob);
    const found = seen ? await this.pixels.palette([seen]).catch(() => []) : [];
    this.colours.set(found.slice(0, MOST_COLOURS).map((colour) => ({ colour, on: true })));
  }

  protected dropLogo(): void {
    const logo = this.logo();
    if (logo) URL.revokeObjectURL(logo.url);
    this.logo.set(null);
    this.colours.set([]);
  }

  protected turn(colour: string): void {
    this.colours.update((all) => all.map((c) => (c.colour === colour ? { ...c, on: !c.on } : c)));
  }

  protected async start(event: Event): Promise<void> {
    event.preventDefault();
    this.busy.set(true);
    const logo = this.logo();
    const palette = this.colours().flatMap((c) => (c.on ? [c.colour] : []));
    await this.house.loadedOnce;
    await this.house.change({
      business: cutText(this.business().trim().toWellFormed(), this.most.business),
      address: cutText(this.address().trim().toWellFormed(), this.most.address),
      ...(logo ? { logos: [logo.asset.hash] } : {}),
      colours: palette.length ? logoColours(palette) : [...plainHouseStyle.colours],
    });
    this.problem.set(this.house.problem());
    if (!this.problem())
      await this.demos.say('own').then(
        () => this.decided.emit(slotsToStart.find((s) => s.id === this.slot()) ?? null),
        () => this.problem.set('The browser could not store that. Free some space and try again.'),
      );
    this.busy.set(false);
  }
}
