import { ChangeDetectionStrategy, Component, DestroyRef, computed, inject, input, output, signal } from '@angular/core';
import { typedSlot, type Result, type Slot } from '@bright-slot/core';
import { FileDrop } from '../../ui/file-drop';
import { TextField } from '../../ui/text-field';
import { SiteClient } from '../../connector/site-client';
import { CurrentPictures, type Diagnosed } from '../../media/current-picture.service';
import { SlotBook } from '../../storage/slot-book.service';
import { AddSlot } from './add-slot';
import { PictureFacts } from './picture-facts';
import { SlotSelect } from './slot-select';

/** The picture that is there now, from a file, the clipboard or its address: what it is and how it suits a slot. */
@Component({
  selector: 'bs-picture-finder',
  imports: [TextField, AddSlot, SlotSelect, PictureFacts],
  changeDetection: ChangeDetectionStrategy.OnPush,
  hostDirectives: [FileDrop],
  host: {
    '(document:paste)': 'pasted($event)',
  },
  template: `
    <h2>Current picture</h2>
    <div class="bring">
      <p>Drop the picture here, paste it, or give its address.</p>
      <form (submit)="fetch($event)">
        <bs-text-field label="Address" [numeric]="false" placeholder="https://" [(text)]="address" />
        <button type="submit" class="button" [disabled]="!address().trim() || busy()">Fetch</button>
      </form>
      <button type="button" class="button" (click)="picker.click()">Choose a file</button>
      <input
        #picker
        type="file"
        class="visually-hidden"
        accept="image/*,.svg"
        aria-label="The picture that is in use now"
        tabindex="-1"
        (change)="choose(picker.files); picker.value = ''"
      />
    </div>
    @if (busy()) {
      <p class="note" role="status">
        Looking at the picture … <button type="button" class="button small" (click)="cancel()">Cancel</button>
      </p>
    }
    @if (problem()) {
      <p class="small-text problem-text" role="alert">{{ problem() }}</p>
    }
    @if (found(); as f) {
      <bs-slot-select label="Against" [slot]="against()" (chosen)="picked.set($event)" />
      <bs-picture-facts [picture]="f.facts" [slot]="against()" [url]="url()" />
      @if (own(); as slot) {
        <p class="note">The site shows it in “{{ slot.name }}”, which is in the book.</p>
        <button type="button" class="button main" (click)="added.emit([slot])">Use that slot</button>
      } @else {
        <bs-add-slot [slots]="slots()" [suggested]="nameOf(f)" label="Use this size" (added)="added.emit($event)" />
      }
    }
  `,
  styleUrl: './_finder.scss',
  styles: `
    .bring {
      display: flex;
      flex-direction: column;
      align-items: flex-start;
      gap: 8px;
      padding: 12px;
      border: 1px dashed var(--border);
      border-radius: var(--corner);
      font-size: 13px;
    }
    form {
      width: 100%;
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
      gap: 8px;
    }
  `,
})
export class PictureFinder {
  readonly slot = input<Slot | null>(null);
  readonly added = output<readonly Slot[]>();
  private readonly pictures = inject(CurrentPictures);
  protected readonly address = signal('');
  protected readonly busy = signal(false);
  protected readonly problem = signal('');
  protected readonly found = signal<Diagnosed | null>(null);
  protected readonly url = signal('');
  protected readonly picked = signal<Slot | null>(null);
  private readonly book = inject(SlotBook);
  /** Unless one is chosen, the slot that the picture was most likely made for: the nearest in width. */
  protected readonly against = computed(() => {
    const width = this.found()?.facts.width ?? 0;
    const off = (s: Slot) => Math.min(Math.abs(s.width - width), Math.abs(s.width * 2 - width));
    const nearest = (this.book.slots() ?? []).reduce<Slot | null>((a, b) => (a && off(a) <= off(b) ? a : b), null);
    return this.picked() ?? this.slot() ?? nearest;
  });
  protected readonly slots = computed(() => {
    const f = this.found();
    if (!f) return [];
    const slot = typedSlot(f.facts.width, f.facts.height, {
      source: `the picture in use, ${f.name || 'pasted'}`.slice(0, 200),
      keepsTransparency: !f.facts.opaque,
    });
    return slot.ok ? [slot.value] : [];
  });
  /** The slot of one's own site that shows this very picture. */
  protected readonly own = signal<Slot | null>(null);
  private readonly site = inject(SiteClient);
  private controller: AbortController | undefined;

  constructor() {
    inject(FileDrop).files.subscribe(({ files }) => this.choose(files));
    inject(DestroyRef).onDestroy(() => {
      this.controller?.abort();
      this.release();
    });
  }

  private release(): void {
    if (this.url()) URL.revokeObjectURL(this.url());
    this.url.set('');
  }

  protected nameOf(f: Diagnosed): string {
    return f.name.replace(/\.[a-z0-9]+$/i, '').slice(0, 60) || 'As the picture';
  }

  private async take(work: (signal: AbortSignal) => Promise<Result<Diagnosed>>): Promise<void> {
    this.controller?.abort();
    const controller = (this.controller = new AbortController());
    this.busy.set(true);
    this.problem.set('');
    this.own.set(null);
    const found = await work(controller.signal);
    if (controller.signal.aborted) return;
    this.busy.set(false);
    if (!found.ok) return this.problem.set(found.problem.message);
    this.release();
    this.found.set(found.value);
    // A drawing could hold a script; an `img` runs none.
    const type = found.value.facts.type === 'svg' ? 'image/svg+xml' : found.value.blob.type;
    this.url.set(URL.createObjectURL(new Blob([found.value.blob], { type })));
  }

  protected cancel(): void {
    this.controller?.abort();
    this.busy.set(false);
  }

  protected fetch(event: Event): void {
    event.preventDefault();
    const address = this.address().trim();
    void this.take((signal) => this.pictures.fromAddress(address, signal)).then(() => this.lookFor(address));
  }

  private async lookFor(address: string): Promise<void> {
    const site = await this.site.site();
    if (!site.ok || address !== this.address().trim() || !this.found()) return;
    const here = (given: string | null | undefined) =>
      !!given && new URL(given, this.site.origin).href === URL.parse(address)?.href;
    const on = site.value.pages
      .flatMap((p) => p.slots)
      .find((s) => here(s.now?.address) || here(s.first) || s.earlier.some((e) => here(e.address)));
    this.own.set((on && this.book.byId().get(on.slot.id)) ?? null);
  }

  protected choose(files: FileList | readonly File[] | null): void {
    const file = files?.[0];
    if (file) void this.take(() => this.pictures.fromFile(file));
  }

  protected pasted(event: ClipboardEvent): void {
    const files = [...(event.clipboardData?.files ?? [])];
    if (!files.length) return;
    event.preventDefault();
    this.choose(files);
  }
}
