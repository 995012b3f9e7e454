import { ChangeDetectionStrategy, Component, DestroyRef, computed, inject, input } from '@angular/core';
import { AllFiles, piecesOf, type Piece } from '../output/all-files';
import { SendAll } from '../output/send-all';
import { GraphicsRepository, type GraphicEntry } from '../storage/graphics-repository';

/** All files of a collection at once: saved together, or put on the site, each in its own place. */
@Component({
  selector: 'bs-collection-files',
  providers: [AllFiles, SendAll],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (all.done() !== null || sending.done() !== null) {
      <span role="status" class="small-text">
        {{ all.done() !== null ? 'Making file ' + (all.done()! + 1) : 'Sending ' + (sending.done()! + 1) }} of
        {{ count() }} …
      </span>
      <button type="button" class="button small" (click)="all.cancel(); sending.cancel()">Cancel</button>
    } @else if (count()) {
      <button type="button" class="button small" (click)="save()">Save {{ files() }}</button>
      @if (canSend()) {
        <button type="button" class="button small main" (click)="send()">
          Put {{ count() === 1 ? 'it' : 'all ' + count() }} on the site
        </button>
      }
    }
    <span role="status" class="small-text">{{ sending.said() || all.said() }}</span>
    @if (sending.visitor(); as url) {
      <a class="small-text" [href]="url" target="_blank" rel="noopener">Look as a visitor</a>
    }
    @if (all.problem() || sending.problem(); as said) {
      <span class="problem-text small-text" role="alert">{{ said }}</span>
    }
  `,
  styles: ':host { display: flex; flex-wrap: wrap; align-items: center; gap: 8px; }',
})
export class CollectionFiles {
  readonly name = input.required<string>();
  /** What is in it, in its order. */
  readonly entries = input.required<readonly GraphicEntry[]>();
  protected readonly all = inject(AllFiles);
  protected readonly sending = inject(SendAll);
  private readonly repository = inject(GraphicsRepository);
  protected readonly count = computed(() => this.entries().reduce((n, e) => n + e.frames.length, 0));
  protected readonly files = computed(() => (this.count() === 1 ? 'its file' : `all ${this.count()} files`));
  /** Whether each of them has a place on a site that takes files. */
  protected readonly canSend = computed(() =>
    this.sending.canAt(this.entries().flatMap((e) => e.frames.map((f) => f.slot))),
  );

  constructor() {
    void this.sending.ask();
    inject(DestroyRef).onDestroy(() => {
      this.all.cancel();
      this.sending.cancel();
    });
  }

  private async pieces(): Promise<Piece[]> {
    const pieces: Piece[] = [];
    for (const { id } of this.entries()) {
      const graphic = await this.repository.graphic(id);
      if (graphic) pieces.push(...piecesOf(graphic));
    }
    return pieces;
  }

  protected async save(): Promise<void> {
    await this.all.zip(await this.pieces(), this.name(), false);
  }

  protected async send(): Promise<void> {
    const pieces = await this.pieces();
    await this.sending.send(pieces, this.all.names(pieces, false));
  }
}
