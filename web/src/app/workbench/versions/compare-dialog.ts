import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  computed,
  effect,
  inject,
  signal,
  untracked,
  viewChildren,
} from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';
import { MatSlider, MatSliderThumb } from '@angular/material/slider';
import { Store } from '@ngrx/store';
import { differences, frameOf, pictureState, type Graphic } from '@bright-slot/core';
import { SiteClient } from '../../connector/site-client';
import { SentFiles } from '../../storage/sent-files.service';
import { Workbench } from '../../document/workbench';
import { workbenchFeature } from '../../document/workbench.store';
import { PixelsService } from '../../pixels/pixels.service';
import { TypeService } from '../../type/type.service';
import { Choice, type Option } from '../../ui/choice';
import { numberOf } from '../../ui/event-value';
import { SelectField } from '../../ui/select-field';

/** What is here now, as a choice beside the versions. */
const NOW = 'now';
/** No third. */
const NONE = 'none';
/** What visitors are shown. */
const LIVE = 'live';
/** So many of the latest steps are looked through for what was sent. */
const LOOKED_THROUGH = 400;
/** Pictures to compare are so wide at most, px. */
const WIDE = 2400;

interface Side {
  readonly graphic: Graphic;
  readonly url: string;
}

/** Two or three states of a graphic side by side, or one over another under a slider: the same zoom, the same place, and what differs in words. */
@Component({
  selector: 'bs-compare',
  imports: [Choice, MatDialogModule, MatSlider, MatSliderThumb, SelectField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './compare-dialog.html',
  styleUrl: './compare-dialog.scss',
})
export class CompareDialog {
  private readonly store = inject(Store);
  private readonly workbench = inject(Workbench);
  private readonly pixels = inject(PixelsService);
  private readonly type = inject(TypeService);
  private readonly data = inject<{ version: string | null }>(MAT_DIALOG_DATA);
  protected readonly numberOf = numberOf;
  private readonly versions = this.store.selectSignal(workbenchFeature.selectVersions);

  private readonly site = inject(SiteClient);
  private readonly sent = inject(SentFiles);
  private readonly history = this.store.selectSignal(workbenchFeature.selectHistory);
  /** What visitors are shown of it, where the state that was sent is among its steps. */
  private readonly live = signal<{ readonly name: string; readonly graphic: Graphic } | null>(null);

  protected readonly options = computed(() => {
    const live = this.live();
    return [
      { id: NOW, name: 'What is here now' },
      ...(live ? [{ id: LIVE, name: live.name }] : []),
      ...this.versions().map((v) => ({ id: v.id, name: v.called! })),
    ];
  });
  protected readonly left = signal(this.data.version ?? this.versions()[1]?.id ?? this.versions()[0]?.id ?? NOW);
  protected readonly right = signal(
    this.data.version === null && this.versions().length > 1 ? this.versions()[0]!.id : NOW,
  );
  /** A third beside the two; none where it is NONE. */
  protected readonly third = signal<string>(NONE);
  protected readonly thirds = computed(() => [{ id: NONE, name: 'No third' }, ...this.options()]);
  protected readonly how = signal<'beside' | 'slider'>('beside');
  protected readonly ways: readonly Option<'beside' | 'slider'>[] = [
    { id: 'beside', name: 'Beside each other' },
    { id: 'slider', name: 'One over the other' },
  ];
  protected readonly whole = signal(true);
  protected readonly split = signal(50);
  private readonly made = signal<ReadonlyMap<string, Side>>(new Map());
  private readonly urls: string[] = [];
  private readonly windows = viewChildren<ElementRef<HTMLElement>>('window');

  private graphicOf(id: string): Graphic | null {
    if (id === NOW) return this.workbench.graphic();
    if (id === LIVE) return this.live()?.graphic ?? null;
    return this.versions().find((v) => v.id === id)?.graphic ?? null;
  }

  private readonly chosen = computed(() => {
    const two = [this.left(), this.right()];
    return this.third() === NONE || this.how() === 'slider' ? two : [...two, this.third()];
  });
  protected readonly sides = computed(() =>
    this.chosen().map((id, i) => ({
      key: i,
      name: this.options().find((o) => o.id === id)?.name ?? '',
      url: this.made().get(id)?.url ?? '',
    })),
  );
  /** How wide both are, CSS px, at true size. */
  protected readonly width = computed(() => {
    const graphic = this.graphicOf(this.right());
    return graphic ? frameOf(graphic, this.workbench.frame()?.id).rect.width : 0;
  });

  /** So much wider than high that they are seen larger one above the other. */
  protected readonly wide = computed(() => {
    const graphic = this.graphicOf(this.right());
    if (!graphic) return false;
    const { rect } = frameOf(graphic, this.workbench.frame()?.id);
    return rect.width > 2.4 * rect.height;
  });

  /** What differs from the left one, in words, for each of the others. */
  protected readonly said = computed(() => {
    const [left, ...others] = this.chosen();
    const a = this.graphicOf(left!);
    const shaper = this.type.shaper();
    return others.map((id, i) => {
      const b = this.graphicOf(id);
      const name = this.options().find((o) => o.id === id)?.name ?? '';
      return { key: i, name, lines: a && b && shaper ? differences(a, b, shaper) : [] };
    });
  });

  /** Where it is live, and which of its states that is. */
  private async lookWhatIsLive(): Promise<void> {
    const [history, own] = [this.history(), this.workbench.graphic()];
    if (!history || !own) return;
    const found: { readonly where: string; readonly state: string }[] = [];
    for (const f of this.sent.all() ?? [])
      if (f.shown && f.state === 'sent' && f.graphic?.id === own.id)
        found.push({ where: f.address || f.name, state: f.graphic.state });
    const site = await this.site.site();
    for (const page of site.ok ? site.value.pages : [])
      for (const { now } of page.slots)
        if (now?.graphic.id === own.id && now.graphic.state !== undefined)
          found.push({ where: page.title, state: now.graphic.state });
    // The latest first: what was sent is seldom long ago.
    const steps = [...history.steps.values()].sort((a, b) => b.at - a.at).slice(0, LOOKED_THROUGH);
    for (const [i, { graphic }] of steps.entries()) {
      // A few at a time, so that nothing waits for it.
      if (i % 20 === 19) await new Promise((r) => setTimeout(r));
      const states = graphic.frames.map((f) => pictureState(graphic, f));
      const live = found.find((f) => states.includes(f.state));
      if (!live) continue;
      this.live.set({ name: `What is live on ${live.where}`, graphic });
      // Nothing was chosen to compare with yet.
      if (this.left() === this.right()) this.left.set(LIVE);
      return;
    }
  }

  constructor() {
    void this.lookWhatIsLive();
    inject(DestroyRef).onDestroy(() => {
      for (const url of this.urls) URL.revokeObjectURL(url);
    });
    effect(() => {
      for (const id of this.chosen()) {
        const graphic = this.graphicOf(id);
        if (graphic) untracked(() => void this.paint(id, graphic));
      }
    });
  }

  private async paint(id: string, graphic: Graphic): Promise<void> {
    if (this.made().get(id)?.graphic === graphic) return;
    const frame = frameOf(graphic, this.workbench.frame()?.id);
    const width = Math.min(WIDE, Math.round(frame.rect.width * Math.max(1, devicePixelRatio)));
    const blob = await this.pixels.asShown(graphic, frame, width).catch(() => null);
    if (!blob) return;
    const url = URL.createObjectURL(blob);
    this.urls.push(url);
    this.made.update((all) => new Map(all).set(id, { graphic, url }));
  }

  protected swap(): void {
    const [a, b] = [this.left(), this.right()];
    this.left.set(b);
    this.right.set(a);
  }

  /** All are looked at in the same place. */
  protected scrolled(event: Event): void {
    const from = event.target as HTMLElement;
    for (const { nativeElement: w } of this.windows())
      if (w !== from) {
        w.scrollLeft = from.scrollLeft;
        w.scrollTop = from.scrollTop;
      }
  }
}
