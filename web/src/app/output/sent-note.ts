import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { copyText } from '../ui/download';
import { Icon } from '../ui/icon';
import { ExportSession } from './export-session';

/** What is said of a sending: where the file will be, how far it is, and what became of it. */
@Component({
  selector: 'bs-sent-note',
  imports: [Icon],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (out.refused(); as r) {
      <div class="refused problem-text" role="alert">
        <p>{{ r.message }}</p>
        @if (r.next) {
          <button type="button" class="button small" (click)="out.useNext(r.next)">Use {{ r.next }}</button>
        }
      </div>
    }
    @if (out.sending() && out.ownSite()) {
      <div class="sent" role="status">
        <p>
          {{ out.waitsToRetry() ? 'The connection broke; it is tried again in a moment …' : 'Sending … ' + percent() }}
        </p>
        <progress max="1" [value]="out.share()" aria-label="How much of the file is there"></progress>
        <button type="button" class="button small" (click)="out.callOff()">Call it off</button>
      </div>
    } @else if (out.sent(); as s) {
      <div class="sent" role="status">
        @if (byHand()) {
          <p><strong>Saved. Now upload it there yourself.</strong></p>
          <p class="small-text">
            Put the file into the place on your page, save the page, and tell Bright Slot on Sites at which address it
            stands: then it is looked at as a visitor sees it.
          </p>
        } @else {
          <p><strong>It is on the site.</strong></p>
          <p class="small-text address">{{ s.address }}</p>
          @if (out.live(); as live) {
            <p class="small-text">A visitor is shown: {{ live }}</p>
          } @else if (s.file) {
            <p class="small-text quiet">It is looked at as a visitor …</p>
          }
          <p class="row">
            <a class="button small" [href]="s.visitor" target="_blank" rel="noopener"
              >See it as a visitor <bs-icon name="open" /></a
            ><button type="button" class="button small" (click)="copy(s.address)">Copy address</button>
          </p>
        }
      </div>
    } @else if (out.savedAs()) {
      <p class="small-text quiet" role="status">Saved as {{ out.savedAs() }}</p>
    } @else if (out.rowFull(); as full) {
      <p class="small-text problem-text" role="alert">{{ full }}</p>
    } @else if (out.willBeAt() && !out.nameProblem()) {
      <p class="small-text quiet will">
        It will be at <span class="address">{{ out.willBeAt() }}</span>{{
          out.heldName() ? ', where the page looks for it; what is there now is kept here first.' : ''
        }}
      </p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
    }
    :host:empty {
      display: none;
    }
    p {
      margin: 0;
    }
    .sent,
    .refused {
      display: grid;
      gap: 5px;
      justify-items: start;
    }
    .sent {
      padding: 7px 10px;
      border-left: 3px solid var(--light);
      background: var(--light-pale);
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
    .address {
      overflow-wrap: anywhere;
    }
    progress {
      width: 100%;
      accent-color: var(--ink);
    }
  `,
})
export class SentNote {
  protected readonly out = inject(ExportSession);
  protected readonly percent = computed(() => `${Math.round(this.out.share() * 100)} %`);
  protected readonly byHand = computed(() => this.out.ownSite()?.way.kind === 'by-hand');

  protected async copy(address: string): Promise<void> {
    await copyText(address);
  }
}
