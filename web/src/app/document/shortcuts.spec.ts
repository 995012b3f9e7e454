import { keysText, shortcutGroups, shortcutOf, withKeys } from './shortcuts';

const press = (key: string, own: Partial<KeyboardEvent> = {}) => ({
  key,
  code: '',
  ctrlKey: false,
  metaKey: false,
  shiftKey: false,
  altKey: false,
  ...own,
});

it('keys are told as the platform does', () => {
  expect(keysText('Mod Shift ArrowUp', false)).toBe('Ctrl Shift ↑');
  expect(keysText('Mod Shift ArrowUp', true)).toBe('⌘ ⇧ ↑');
  expect(withKeys('Undo', 'undo', false)).toBe('Undo (Ctrl Z)');
});

it('each key is one thing', () => {
  const keys = shortcutGroups.flatMap((g) => g.shortcuts.flatMap((s): readonly string[] => s.keys));
  expect(new Set(keys).size).toBe(keys.length);
});

it.each([
  [press('z', { ctrlKey: true }), false, 'undo'],
  [press('Z', { ctrlKey: true, shiftKey: true }), false, 'redo'],
  [press('z', { metaKey: true }), true, 'undo'],
  [press('z', { ctrlKey: true }), true, null],
  [press('g', { ctrlKey: true }), false, 'group'],
  [press('G', { ctrlKey: true, shiftKey: true }), false, 'ungroup'],
  [press('/', { ctrlKey: true, shiftKey: true }), false, 'sheet'],
  [press('ArrowUp', { ctrlKey: true }), false, 'forward'],
  [press('ArrowUp', { ctrlKey: true, shiftKey: true }), false, 'front'],
  // On a Mac Alt 1 types another sign.
  [press('¡', { altKey: true, code: 'Digit1' }), true, 'true-size'],
  [press('–', { altKey: true, code: 'Minus' }), true, 'smaller'],
  [press('+', { altKey: true, shiftKey: true, code: 'Equal' }), false, 'larger'],
  [press('z'), false, null],
  [press('Delete'), false, 'delete'],
])('%j (Mac: %s) is %s', (event, mac, id) => {
  expect(shortcutOf(event, mac)).toBe(id);
});
