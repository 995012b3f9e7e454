import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { MatSnackBar } from '@angular/material/snack-bar';
import { ActivatedRoute, RouterLink } from '@angular/router';
import { wayText, type SiteRecord } from '@bright-slot/core';
import { firstValueFrom } from 'rxjs';
import { PlaceBar } from '../shell/place-bar';
import { Vault } from '../connector/vault';
import { SentFiles } from '../storage/sent-files.service';
import { Sites } from '../storage/sites.service';
import { whenText } from '../ui/when';
import { Icon } from '../ui/icon';
import { OwnSite } from './own-site';
import { SiteEditor } from './site-editor';
import { StandInPages } from './stand-in-pages';

/** Where graphics live: the person's sites, their pages, and what each place shows. */
@Component({
  selector: 'bs-sites-page',
  imports: [PlaceBar, RouterLink, Icon, OwnSite, StandInPages],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: 'place' },
  template: `
    <bs-place-bar />
    <main>
      <div class="top">
        <h1>Sites</h1>
        <div class="choose" role="group" aria-label="Site">
          @for (s of all(); track s.id) {
            <button type="button" class="button" [attr.aria-pressed]="s.id === site()?.id" (click)="chosen.set(s.id)">
              {{ s.name }}{{ s.way.kind === 'stand-in' ? ', demo' : '' }}
            </button>
          }
          @if (all().length) {
            <button type="button" class="button" (click)="edit(null)"><bs-icon name="plus" /> A site</button>
          }
        </div>
      </div>
      @if (site(); as s) {
        <p class="way quiet">
          <span
            ><strong>{{ s.address }}</strong
            >, {{ way(s) }}{{ besides(s) }}</span
          >
          @if (s.way.kind !== 'stand-in') {
            <button type="button" class="button small" (click)="edit(s)">Change this site</button>
          }
        </p>
        @if (s.way.kind === 'stand-in') {
          <bs-stand-in-pages />
        } @else {
          <bs-own-site [site]="s" />
        }
      } @else if (sites.all()) {
        <div class="empty">
          <h2>No site yet</h2>
          <p class="quiet">
            Name your site and how it takes files, and graphics go there in one press; Bright Slot then looks at what a
            visitor is shown. Without one, save your graphics as files and put them on your pages yourself.
          </p>
          <p class="row">
            <button type="button" class="button main" (click)="edit(null)">Set up a site</button>
            <a class="button" routerLink="/graphics">Back to Graphics</a>
          </p>
        </div>
      } @else {
        <p class="quiet" role="status">Opening …</p>
      }
    </main>
  `,
  styles: `
    .top {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 10px 18px;
      margin-bottom: 8px;
    }
    .choose,
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
    .row {
      justify-content: center;
    }
    .choose .button[aria-pressed='true'] {
      background: var(--ink);
      color: var(--surface);
      border-color: var(--ink);
    }
    .way {
      display: flex;
      flex-wrap: wrap;
      align-items: baseline;
      gap: 0 4px;
      margin: 0 0 12px;
    }
    .way .button {
      margin-left: 10px;
    }
    .way strong {
      color: var(--ink);
    }
  `,
})
export class SitesPage {
  protected readonly sites = inject(Sites);
  private readonly vault = inject(Vault);
  private readonly files = inject(SentFiles);
  private readonly dialogs = inject(MatDialog);
  private readonly snack = inject(MatSnackBar);
  /** The person's own before the demo's. */
  protected readonly all = computed(() =>
    [...(this.sites.all() ?? [])].sort(
      (a, b) => Number(a.way.kind === 'stand-in') - Number(b.way.kind === 'stand-in') || a.name.localeCompare(b.name),
    ),
  );
  protected readonly chosen = signal(inject(ActivatedRoute).snapshot.queryParamMap.get('site') ?? '');
  protected readonly site = computed(() => this.all().find((s) => s.id === this.chosen()) ?? this.all()[0] ?? null);
  protected readonly way = (s: SiteRecord) => wayText(s.way);

  /** Whether we are signed in, and when something was sent there last. */
  protected besides({ id }: SiteRecord): string {
    const last = (this.files.all() ?? [])
      .filter((f) => f.site === id && f.graphic && f.state === 'sent')
      .reduce((at, f) => (f.at > at ? f.at : at), '');
    const signed = this.vault.of(id) ? ' · signed in until this tab closes' : '';
    return `${signed}${last ? ` · last sent ${whenText(last)}` : ''}`;
  }

  /** Sets a site up, or changes one. */
  protected async edit(site: SiteRecord | null): Promise<void> {
    const ref = this.dialogs.open<SiteEditor, SiteRecord | null, SiteRecord | 'removed'>(SiteEditor, {
      width: '640px',
      maxWidth: '94vw',
      maxHeight: '94vh',
      data: site,
    });
    const done = await firstValueFrom(ref.afterClosed());
    if (!done) return;
    if (done !== 'removed') this.chosen.set(done.id);
    else if (site)
      this.snack
        .open(`“${site.name}” is taken out of Bright Slot; nothing was changed there.`, 'Undo')
        .onAction()
        .subscribe(() => void this.sites.put(site));
  }
}
