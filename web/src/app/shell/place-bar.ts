import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { SaveState } from './save-state';

/** The slim bar of the places. */
@Component({
  selector: 'bs-place-bar',
  imports: [RouterLink, RouterLinkActive, SaveState],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header>
      <a class="home" routerLink="/graphics"
        ><img src="mark.svg" alt="" width="24" height="24" /><span>Bright Slot</span></a
      >
      <nav aria-label="Places">
        @for (place of places; track place.path) {
          <a [routerLink]="place.path" routerLinkActive="here" ariaCurrentWhenActive="page">{{ place.name }}</a>
        }
      </nav>
      <bs-save-state />
    </header>
  `,
  styles: `
    header {
      height: 48px;
      display: flex;
      align-items: center;
      gap: 18px;
      padding: 0 20px;
      background: var(--surface);
      border-bottom: 1px solid var(--hairline);
    }
    .home {
      display: flex;
      align-items: center;
      gap: 10px;
      color: var(--ink);
      text-decoration: none;
      font:
        650 18px/1 'Bricolage Grotesque Variable',
        sans-serif;
    }
    nav {
      display: flex;
      gap: 4px;
      flex: 1;
    }
    nav a {
      color: var(--ink-soft);
      text-decoration: none;
      font-weight: 600;
      font-size: 13px;
      padding: 7px 11px;
      border-radius: var(--corner);
    }
    nav a:hover {
      background: var(--ground);
    }
    nav a.here {
      background: var(--ground-deep);
      color: var(--ink);
    }
  `,
})
export class PlaceBar {
  protected readonly places = [
    { path: '/graphics', name: 'Graphics' },
    { path: '/slots', name: 'Slots' },
    { path: '/house-style', name: 'House style' },
    { path: '/sites', name: 'Sites' },
  ];
}
