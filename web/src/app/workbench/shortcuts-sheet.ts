import { ChangeDetectionStrategy, Component, computed, signal } from '@angular/core';
import { MatDialogClose, MatDialogContent, MatDialogTitle } from '@angular/material/dialog';
import { keysText, shortcutGroups, type Shortcut } from '../document/shortcuts';
import { valueOf } from '../ui/event-value';

/** Every shortcut on one sheet, searched by what it does or by its keys. */
@Component({
  selector: 'bs-shortcuts-sheet',
  imports: [MatDialogClose, MatDialogContent, MatDialogTitle],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Shortcuts</h2>
    <mat-dialog-content>
      <label class="field">
        <span class="field-label">Search</span>
        <input type="search" autocomplete="off" [value]="asked()" (input)="asked.set(valueOf($event))" />
      </label>
      <div class="groups">
        @for (g of found(); track g.name) {
          <section>
            <h3>{{ g.name }}</h3>
            <dl>
              @for (s of g.shortcuts; track s.id) {
                <div>
                  <dt>{{ s.does }}</dt>
                  <dd>
                    @for (k of s.keys; track k; let last = $last) {
                      <kbd>{{ keysText(k) }}</kbd>{{ last ? '' : ' or ' }}
                    }
                  </dd>
                </div>
              }
            </dl>
          </section>
        } @empty {
          <p class="quiet" role="status">No shortcut does that. Try “move”, “copy” or “group”.</p>
        }
      </div>
      <div class="end"><button type="button" class="button" mat-dialog-close>Close</button></div>
    </mat-dialog-content>
  `,
  styles: `
    .field {
      width: 100%;
      margin-top: 4px;
    }
    .groups {
      columns: 2;
      column-gap: 36px;
      margin-top: 16px;
      min-height: 300px;
    }
    section {
      break-inside: avoid;
      margin-bottom: 16px;
    }
    h3 {
      margin: 0 0 4px;
      font-size: 15px;
    }
    dl {
      margin: 0;
    }
    dl div {
      display: flex;
      justify-content: space-between;
      gap: 12px;
      padding: 4px 0;
      border-bottom: 1px solid var(--hairline);
    }
    dt,
    dd {
      margin: 0;
      font-size: 13px;
    }
    dd {
      white-space: nowrap;
      color: var(--ink-soft);
      font-size: 12px;
    }
    kbd {
      font: inherit;
      font-weight: 600;
      color: var(--ink);
    }
    .end {
      display: flex;
      justify-content: flex-end;
    }
  `,
})
export class ShortcutsSheet {
  protected readonly valueOf = valueOf;
  protected readonly keysText = keysText;
  protected readonly asked = signal('');
  protected readonly found = computed(() => {
    const words = this.asked().toLowerCase().split(/\s+/).filter(Boolean);
    const fits = (s: Shortcut) => {
      const all = `${s.does} ${s.keys.map((k) => keysText(k)).join(' ')}`.toLowerCase();
      return words.every((w) => all.includes(w));
    };
    return shortcutGroups
      .map((g) => ({ name: g.name, shortcuts: (g.shortcuts as readonly Shortcut[]).filter(fits) }))
      .filter((g) => g.shortcuts.length);
  });
}
