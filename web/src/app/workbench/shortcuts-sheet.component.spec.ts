import { TestBed } from '@angular/core/testing';
import { MatDialogRef } from '@angular/material/dialog';
import { keysText, shortcutGroups } from '../document/shortcuts';
import { Mounted } from '../testing/mounted';
import { ShortcutsSheet } from './shortcuts-sheet';

let closed = 0;
beforeEach(() => {
  closed = 0;
  TestBed.configureTestingModule({
    providers: [
      {
        provide: MatDialogRef,
        useValue: {
          close: () => closed++,
          id: 'sheet',
          _containerInstance: { _addAriaLabelledBy: () => undefined, _removeAriaLabelledBy: () => undefined },
        },
      },
    ],
  });
});

it('all shortcuts are on one sheet', async () => {
  const on = await Mounted.of(ShortcutsSheet);
  expect(on.all('dt').length).toBe(shortcutGroups.reduce((n, g) => n + g.shortcuts.length, 0));
  expect(on.all('h3').map((h) => h.textContent)).toEqual(shortcutGroups.map((g) => g.name));
});
it('they are searched by what they do, and by their keys', async () => {
  const on = await Mounted.of(ShortcutsSheet);
  const field = on.find<HTMLInputElement>('input');
  await on.type(field, 'group');
  const found = on.all('dt').map((d) => d.textContent.toLowerCase());
  expect(found.length).toBeGreaterThan(0);
  expect(found.length).toBeLessThan(5);
  const first = shortcutGroups[0].shortcuts[0];
  await on.type(field, keysText(first.keys[0]));
  expect(on.all('dt').map((d) => d.textContent)).toContain(first.does);
});
it('where none does that, other words are proposed', async () => {
  const on = await Mounted.of(ShortcutsSheet);
  await on.type(on.find<HTMLInputElement>('input'), 'zzzz');
  expect(on.all('dt')).toEqual([]);
  expect(on.find('[role=status]').textContent).toContain('Try “move”');
});
it('it is closed by its button', async () => {
  const on = await Mounted.of(ShortcutsSheet);
  await on.press('Close');
  expect(closed).toBe(1);
});
