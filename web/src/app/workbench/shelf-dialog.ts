import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import type { ShelfPicture } from '@bright-slot/core';
import { SiteClient } from '../shared/site-client';

/** The site's shelf of pictures. */
@Component({
  selector: 'bs-shelf-dialog',
  imports: [MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>From the shelf</h2>
    <mat-dialog-content>
      @if (problem()) {
        <p class="problem-text" role="alert">{{ problem() }}</p>
      }
      @if (!pictures() && !problem()) {
        <p class="quiet" role="status">Looking at the shelf …</p>
      }
      <div class="shelf">
        @for (p of pictures() ?? []; track p.file) {
          <button type="button" [disabled]="fetching() !== null" (click)="choose(p)">
            <img [src]="thumb(p)" alt="" width="160" height="107" loading="lazy" />
            <span class="title">{{ fetching() === p.file ? 'Fetching …' : p.title }}</span>
            <span class="quiet small-text">{{ p.width }} × {{ p.height }}</span>
          </button>
        }
      </div>
    </mat-dialog-content>
    <mat-dialog-actions align="end"
      ><button type="button" class="button" mat-dialog-close>Close</button></mat-dialog-actions
    >
  `,
  styles: `
    .shelf {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(160px, 1fr));
      gap: 12px;
      padding-top: 4px;
    }
    .shelf button {
      display: flex;
      flex-direction: column;
      align-items: flex-start;
      padding: 0 0 6px;
      border: 1px solid var(--hairline);
      border-radius: var(--corner);
      background: var(--surface);
      cursor: pointer;
      font: inherit;
      color: var(--ink);
      overflow: hidden;
      text-align: left;
    }
    .shelf button:hover {
      border-color: var(--ink);
    }
    img {
      width: 100%;
      height: auto;
      aspect-ratio: 3 / 2;
      object-fit: cover;
      margin-bottom: 4px;
    }
    span {
      padding: 0 8px;
    }
    .title {
      font-weight: 600;
      font-size: 13px;
    }
  `,
})
export class ShelfDialog {
  private readonly dialog = inject<MatDialogRef<ShelfDialog, File>>(MatDialogRef);
  private readonly site = inject(SiteClient);
  protected readonly pictures = signal<readonly ShelfPicture[] | null>(null);
  protected readonly problem = signal('');
  protected readonly fetching = signal<string | null>(null);

  constructor() {
    void this.site.shelf().then((shelf) => {
      if (shelf.ok) this.pictures.set(shelf.value);
      else this.problem.set(shelf.problem.message);
    });
  }

  protected thumb(p: ShelfPicture): string {
    return this.site.thumbAddress(p);
  }

  protected async choose(p: ShelfPicture): Promise<void> {
    this.fetching.set(p.file);
    const blob = await this.site.shelfFile(p.file);
    this.fetching.set(null);
    if (blob.ok) this.dialog.close(new File([blob.value], `${p.title}.${p.file.split('.').pop()}`));
    else this.problem.set(blob.problem.message);
  }
}
