import type { Slot } from '../slot/slot';
import { describedState } from './describe';
import { adaptToSlot } from './adapt-to-slot';
import type { Derived } from './follows';
import type { Backdrop, Follows, Graphic, Layer } from './graphic';
import type { ExportChoices, Frame, LeftFinding } from './frame';
import { limits } from '../limits';
import { grouped, insertedAt, reordered, settledGroups, ungrouped } from './groups';
import type { Group } from './layer';

/**
 * One change to a graphic, a plain value. `name` is what the list of steps says.
 * `merge`: an edit with the same key as the step before joins it (typing, nudging).
 */
export type Edit = { readonly name: string; readonly merge?: string } & Change;

/** What an edit changes, without its name. */
export type Change =
  | { readonly type: 'add-layer'; readonly layer: Layer; readonly at?: number }
  | { readonly type: 'add-layers'; readonly layers: readonly Layer[]; readonly at?: number }
  | { readonly type: 'remove-layer'; readonly id: string }
  | { readonly type: 'move-layer'; readonly id: string; readonly to: number }
  /** The first of them at that place, the others after it. */
  | { readonly type: 'move-layers'; readonly ids: readonly string[]; readonly to: number }
  | { readonly type: 'group'; readonly ids: readonly string[]; readonly group: Group }
  | { readonly type: 'ungroup'; readonly ids: readonly string[] }
  | { readonly type: 'replace-layer'; readonly layer: Layer }
  | { readonly type: 'set-backdrop'; readonly backdrop: Backdrop }
  | { readonly type: 'adapt-to-slot'; readonly frame: string; readonly slot: Slot }
  | { readonly type: 'set-export'; readonly frame: string; readonly choices: Partial<ExportChoices> }
  | { readonly type: 'leave-finding'; readonly frame: string; readonly left: LeftFinding }
  | { readonly type: 'take-up-finding'; readonly frame: string; readonly finding: string }
  | { readonly type: 'rename'; readonly to: string }
  /** What the graphic is after its source was derived anew (see `followed`), and what it follows from now on. */
  | { readonly type: 'follow'; readonly derived: Derived; readonly follows: Follows }
  | { readonly type: 'stop-following' }
  /** Several changes that are one step. */
  | { readonly type: 'together'; readonly edits: readonly Change[] };

const withFrame = (graphic: Graphic, id: string, change: (frame: Frame) => Frame): Graphic => ({
  ...graphic,
  frames: graphic.frames.map((f) => (f.id === id ? change(f) : f)),
});

function withLayers(graphic: Graphic, layers: readonly Layer[]): Graphic {
  const settled = settledGroups(layers);
  return settled === graphic.layers ? graphic : { ...graphic, layers: settled };
}

/** The graphic after an edit; the same object where the edit changes nothing. */
export function applyEdit(
  graphic: Graphic,
  edit: Change & { readonly name?: string; readonly merge?: string },
): Graphic {
  switch (edit.type) {
    case 'add-layer':
      return withLayers(graphic, insertedAt(graphic.layers, [edit.layer], edit.at ?? graphic.layers.length));
    case 'add-layers':
      return withLayers(graphic, insertedAt(graphic.layers, edit.layers, edit.at ?? graphic.layers.length));
    case 'remove-layer': {
      const layers = graphic.layers.filter((l) => l.id !== edit.id);
      return layers.length === graphic.layers.length ? graphic : withLayers(graphic, layers);
    }
    case 'move-layer':
      return withLayers(graphic, reordered(graphic.layers, [edit.id], edit.to));
    case 'move-layers':
      return withLayers(graphic, reordered(graphic.layers, edit.ids, edit.to));
    case 'group':
      return withLayers(graphic, grouped(graphic.layers, edit.ids, edit.group));
    case 'ungroup':
      return withLayers(graphic, ungrouped(graphic.layers, edit.ids));
    case 'replace-layer':
      return { ...graphic, layers: graphic.layers.map((l) => (l.id === edit.layer.id ? edit.layer : l)) };
    case 'set-backdrop':
      return { ...graphic, backdrop: edit.backdrop };
    case 'adapt-to-slot':
      return adaptToSlot(graphic, edit.frame, edit.slot);
    case 'set-export':
      return withFrame(graphic, edit.frame, (f) => ({
        ...f,
        export: {
          ...f.export,
          ...edit.choices,
          // A description is of what is there when it is written.
          ...(edit.choices.alt === undefined ? {} : { altFor: describedState(graphic.layers) }),
        },
      }));
    case 'leave-finding': {
      const { frame, left } = edit;
      return withFrame(graphic, frame, (f) => ({
        ...f,
        left: [...f.left.filter((l) => l.finding !== left.finding), left].slice(-limits.left),
      }));
    }
    case 'take-up-finding':
      return withFrame(graphic, edit.frame, (f) => ({ ...f, left: f.left.filter((l) => l.finding !== edit.finding) }));
    case 'rename':
      return { ...graphic, name: edit.to };
    case 'follow':
      return { ...withLayers(graphic, edit.derived.layers), backdrop: edit.derived.backdrop, follows: edit.follows };
    case 'stop-following': {
      const next = { ...graphic };
      delete next.follows;
      return next;
    }
    case 'together':
      return edit.edits.reduce(applyEdit, graphic);
  }
}
