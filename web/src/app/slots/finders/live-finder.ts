import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { DomSanitizer, type SafeUrl } from '@angular/platform-browser';
import { MatSnackBar } from '@angular/material/snack-bar';
import { fitText, figure, readLive, slotFromLive, type LiveMeasure, type Slot } from '@bright-slot/core';
import { SiteClient } from '../../connector/site-client';
import { CurrentPictures, type Diagnosed } from '../../media/current-picture.service';
import { fileText } from '../slot-facts';
import { AddSlot } from './add-slot';
import { PictureFacts } from './picture-facts';
import { today } from '../../ui/when';
import { copyText } from '../../ui/download';

/** The measuring bookmark, and what it hands back. */
@Component({
  selector: 'bs-live-finder',
  imports: [AddSlot, PictureFacts],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(document:paste)': 'pasted($event)' },
  templateUrl: './live-finder.html',
  styleUrl: './_finder.scss',
  styles: `
    ol {
      margin: 0;
      padding-left: 18px;
      font-size: 13px;
    }
    li {
      margin-bottom: 8px;
    }
  `,
})
export class LiveFinder {
  /** What the bookmark put into the address of this page. */
  readonly handed = input('');
  readonly added = output<readonly Slot[]>();
  protected readonly site = inject(SiteClient);
  private readonly sanitizer = inject(DomSanitizer);
  private readonly pictures = inject(CurrentPictures);
  private readonly snack = inject(MatSnackBar);
  protected readonly measured = signal<LiveMeasure | null>(null);
  protected readonly problem = signal('');
  protected readonly source = signal('');
  protected readonly busy = signal(false);
  protected readonly diagnosed = signal<Diagnosed | null>(null);
  protected readonly fit = (s: Slot) => fitText(s.fit);
  protected readonly f = (n: number) => figure(n);
  protected readonly file = fileText;

  /** Our own script, made at the build: the browser would not keep the address of a bookmark otherwise. */
  protected readonly bookmark = computed<SafeUrl | null>(() =>
    this.source() ? this.sanitizer.bypassSecurityTrustUrl(this.source()) : null,
  );
  protected readonly slot = computed(() => {
    const m = this.measured();
    const slot = m && slotFromLive(m, { id: 'measured', dated: today() });
    return slot?.ok ? slot.value : null;
  });
  protected readonly slots = computed(() => (this.slot() ? [this.slot()!] : []));

  constructor() {
    effect(() => {
      const handed = this.handed();
      if (handed) untracked(() => this.read(handed));
    });
    void fetch('bookmark/measure.js')
      .then((r) => (r.ok ? r.text() : Promise.reject(new Error(String(r.status)))))
      .then((code) =>
        this.source.set(
          `javascript:${encodeURIComponent(code.trim().replaceAll('__APP__', JSON.stringify(location.origin)))}`,
        ),
      )
      .catch(() => this.problem.set('The bookmark could not be loaded. Reload this page.'));
  }

  protected shape(s: Slot): string {
    return s.shape.kind === 'ellipse'
      ? 'round'
      : s.shape.kind === 'rounded'
        ? `corners of ${figure(s.shape.radius)} px`
        : 'straight';
  }

  private read(text: string): void {
    const m = readLive(text);
    this.problem.set(m.ok ? '' : m.problem.message);
    if (!m.ok) return;
    this.measured.set(m.value);
    this.diagnosed.set(null);
    const slot = slotFromLive(m.value, { id: 'measured', dated: '2026-01-01' });
    if (!slot.ok) this.problem.set(slot.problem.message);
  }

  protected pasted(event: ClipboardEvent): void {
    const text = event.clipboardData?.getData('text/plain') ?? '';
    if (!text.trimStart().startsWith('{')) return;
    event.preventDefault();
    this.read(text);
  }

  protected async look(m: LiveMeasure): Promise<void> {
    this.busy.set(true);
    const found = await this.pictures.fromAddress(m.picture!.address);
    this.busy.set(false);
    if (found.ok) this.diagnosed.set(found.value);
    else this.problem.set(found.problem.message);
  }

  protected async copy(): Promise<void> {
    const done = await copyText(this.source());
    this.snack.open(
      done
        ? 'Copied. Make a bookmark and paste this as its address.'
        : 'The browser does not allow copying here; drag the link instead.',
      'Close',
    );
  }
}
