/** Whether ⌘ stands where Ctrl does elsewhere. */
export const isMac = (platform = navigator.platform): boolean => /mac|iphone|ipad/i.test(platform);

/** What can be done from the keyboard. `Mod` is Ctrl, or ⌘ where that is the custom. */
export interface Shortcut {
  readonly id: string;
  readonly does: string;
  /** Any of these; parts joined by a space. */
  readonly keys: readonly string[];
}

/** All of them, as the sheet lists them. Keys follow what browsers and systems are used to; the few others are chords. */
export const shortcutGroups = [
  {
    name: 'Steps',
    shortcuts: [
      { id: 'undo', does: 'Undo', keys: ['Mod Z'] },
      { id: 'redo', does: 'Redo', keys: ['Mod Y', 'Mod Shift Z'] },
      { id: 'sheet', does: 'Show these shortcuts', keys: ['Mod /', 'F1'] },
    ],
  },
  {
    name: 'Selecting',
    shortcuts: [
      { id: 'next', does: 'The next thing on the canvas', keys: ['Tab'] },
      { id: 'all', does: 'Select everything', keys: ['Mod A'] },
      { id: 'more', does: 'Select one more, or one less', keys: ['Shift Click'] },
      { id: 'band', does: 'Select all within a box', keys: ['Shift Drag'] },
      { id: 'beneath', does: 'What lies here, also beneath', keys: ['Right click', 'Shift F10'] },
      { id: 'none', does: 'Select nothing', keys: ['Escape'] },
      { id: 'open', does: 'Crop a picture, write words, go into a group', keys: ['Enter', 'Double click'] },
    ],
  },
  {
    name: 'Copies',
    shortcuts: [
      { id: 'copy', does: 'Copy', keys: ['Mod C'] },
      { id: 'cut', does: 'Cut', keys: ['Mod X'] },
      { id: 'paste', does: 'Paste layers, pictures or text', keys: ['Mod V'] },
      { id: 'duplicate', does: 'Duplicate', keys: ['Mod D'] },
      { id: 'delete', does: 'Delete', keys: ['Delete'] },
    ],
  },
  {
    name: 'In place',
    shortcuts: [
      { id: 'nudge', does: 'Move by 1 px (half a px where the slot has halves)', keys: ['Arrows'] },
      { id: 'nudge-far', does: 'Move by 10 px', keys: ['Shift Arrows'] },
      { id: 'free', does: 'Move without snapping', keys: ['Alt Drag'] },
      { id: 'centre', does: 'To the middle of the canvas, both ways', keys: ['Alt C'] },
      { id: 'group', does: 'Make a group', keys: ['Mod G'] },
      { id: 'ungroup', does: 'Undo a group', keys: ['Mod Shift G'] },
      { id: 'forward', does: 'Further forward', keys: ['Mod ArrowUp'] },
      { id: 'back', does: 'Further back', keys: ['Mod ArrowDown'] },
      { id: 'front', does: 'To the front', keys: ['Mod Shift ArrowUp'] },
      { id: 'behind', does: 'To the back', keys: ['Mod Shift ArrowDown'] },
      { id: 'rename', does: 'Rename, in the row of layers', keys: ['F2'] },
    ],
  },
  {
    name: 'Seeing',
    shortcuts: [
      { id: 'larger', does: 'Larger', keys: ['Alt +', 'Mod Wheel'] },
      { id: 'smaller', does: 'Smaller', keys: ['Alt -'] },
      { id: 'fit', does: 'Fit the canvas', keys: ['Alt 0'] },
      { id: 'true-size', does: 'True size', keys: ['Alt 1'] },
      { id: 'to-selection', does: 'Show what is selected as large as can be', keys: ['Alt 2'] },
      { id: 'pan', does: 'Move the canvas about', keys: ['Wheel', 'Space Drag'] },
    ],
  },
] as const satisfies readonly { readonly name: string; readonly shortcuts: readonly Shortcut[] }[];

export type ShortcutId = (typeof shortcutGroups)[number]['shortcuts'][number]['id'];

const all: readonly Shortcut[] = shortcutGroups.flatMap((g) => g.shortcuts as readonly Shortcut[]);

const signs: Readonly<Record<string, string>> = { ArrowUp: '↑', ArrowDown: '↓', '-': '−' };

/** Keys as people read them: “Ctrl Shift Z”, “⌘ ⇧ Z”. */
export function keysText(keys: string, mac = isMac()): string {
  return keys
    .split(' ')
    .map((k) => signs[k] ?? (mac ? ({ Mod: '⌘', Shift: '⇧', Alt: '⌥' }[k] ?? k) : k === 'Mod' ? 'Ctrl' : k))
    .join(' ');
}

/** The first keys of a shortcut, as people read them. */
export const keysOf = (id: ShortcutId, mac = isMac()): string => keysText(all.find((s) => s.id === id)!.keys[0]!, mac);

/** A name with its first shortcut, for tooltips. */
export const withKeys = (name: string, id: ShortcutId, mac = isMac()): string => `${name} (${keysOf(id, mac)})`;

type Pressed = Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'shiftKey' | 'altKey' | 'code'>;

const named: Readonly<Record<string, string>> = { Equal: '+', NumpadAdd: '+', Minus: '-', NumpadSubtract: '-' };

/** Which shortcut a key is; null where it is none. */
export function shortcutOf(event: Pressed, mac = isMac()): ShortcutId | null {
  const mod = mac ? event.metaKey : event.ctrlKey;
  // What Alt makes of a key is another sign on some keyboards: the key is meant.
  const meant = /^(?:Key|Digit|Numpad)([A-Z0-9])$/.exec(event.code)?.[1] ?? named[event.code];
  const key = event.altKey && meant ? meant : event.key.length === 1 ? event.key.toUpperCase() : event.key;
  const pressed = (keys: string) => {
    const parts = keys.split(' ');
    const last = parts.at(-1)!;
    return (
      last === key &&
      parts.includes('Mod') === mod &&
      parts.includes('Alt') === event.altKey &&
      // Signs may need Shift.
      (parts.includes('Shift') === event.shiftKey || /^[/+-]$/.test(last))
    );
  };
  return (all.find((s) => s.keys.some(pressed))?.id as ShortcutId | undefined) ?? null;
}
