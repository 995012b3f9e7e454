/// <reference lib="webworker" />
import { frameOf } from '@bright-slot/core';
import { encode, warmUp } from './jobs/encode';
import { drawingOf } from './jobs/drawing';
import { layerFiles } from './jobs/layer-files';
import { compareLive } from './jobs/compare-live';
import { compose } from './jobs/compose';
import { layoutsFor } from './jobs/layouts';
import { tilesFor } from './jobs/tiles';
import { diagnosePicture } from './jobs/diagnose-picture';
import { importPicture } from './jobs/import-picture';
import { clean, edges, looked, parts, silhouette, trim } from './jobs/analyse-picture';
import { examinePicture } from './jobs/examine-picture';
import { focusAndBusy } from './jobs/focus';
import { paletteFrom } from './jobs/palette';
import { CodeMissing, decodeBlob, decodeCount, forgetPictures, picture } from './jobs/pictures';
import { differenceOfFile, encodePainted, forgetHeld } from './jobs/painted';
import { forgetAhead, madeAhead, makeAhead } from './jobs/file-ahead';
import { openFont } from './jobs/font';
import { groundOf } from './jobs/ground-map';
import { strengthFor } from './jobs/least-veil';
import { legibility } from './jobs/legibility';
import { forgetPainted, render, renderFile } from './jobs/render';
import { closeRetired } from './jobs/retired';
import { forgetFrames } from './jobs/stored-frames';
import { rough, roughOf } from './jobs/rough';
import { closeShot, measureShot, openShot } from './jobs/shot';
import { forgetSurfaces, makeSurface, warmReduction } from './jobs/surface';
import { Stopped, Turns, type Turn } from './jobs/turn';
import { Request, type Reply, type Task } from './messages';

const turns = new Turns();

/** What goes first: what is on screen, then what someone waits for, what is judged of it, and what lists show. */
const ranks: Record<Task['kind'], number> = {
  surface: 0,
  rough: 0,
  forget: 0,
  'shot-measure': 0,
  'shot-close': 0,
  'import-picture': 1,
  'shot-open': 1,
  'diagnose-picture': 1,
  'compare-live': 2,
  file: 1,
  painted: 1,
  difference: 1,
  encode: 1,
  'file-ahead': 4,
  'layer-files': 1,
  drawing: 1,
  trim: 1,
  clean: 1,
  parts: 1,
  silhouette: 1,
  examine: 2,
  edges: 1,
  focus: 1,
  palette: 1,
  font: 1,
  'ground-map': 1,
  compose: 1,
  layouts: 1,
  tiles: 1,
  legibility: 2,
  'least-veil': 3,
  miniature: 3,
};

async function answer(task: Task, turn: Turn): Promise<{ value: unknown; transfer: Transferable[] }> {
  await turn.pass();
  switch (task.kind) {
    case 'surface': {
      const surface = await makeSurface(task.need, turn, task.drawn);
      const bitmap = await createImageBitmap(surface);
      return { value: bitmap, transfer: [bitmap] };
    }
    case 'rough': {
      const { asset, cutout, drawn, most } = task;
      const small = drawn || cutout ? rough(drawn ?? (await picture(asset, cutout)), most) : await roughOf(asset, most);
      const bitmap = await looked(small, task.look, task.tint);
      return { value: bitmap, transfer: [bitmap] };
    }
    case 'import-picture': {
      const found = await importPicture(task.blob, task.name, task.most, task.toCanvas);
      return { value: found, transfer: found.ok && 'rough' in found.value ? [found.value.rough] : [] };
    }
    case 'file': {
      warmUp(task.format);
      const frame = frameOf(task.graphic, task.frame);
      const before = decodeCount();
      const canvas = await renderFile(task.graphic, frame, task.density, task.vectors, turn);
      await turn.pass();
      const choices = { ...task, ground: frame.slot.ground };
      const made = (!task.compare && madeAhead(canvas, choices)) || (await encode(canvas, choices, task.compare));
      const decoded = decodeCount() - before;
      return { value: { ...made, width: canvas.width, height: canvas.height, decoded }, transfer: [] };
    }
    case 'difference': {
      const { graphic, density, vectors, file } = task;
      const frame = frameOf(graphic, task.frame);
      const canvas = await renderFile(graphic, frame, density, vectors, turn);
      await turn.pass();
      return { value: await differenceOfFile(canvas, frame.slot.ground, file), transfer: [] };
    }
    case 'encode':
      return { value: await encodePainted(task.key, task.painted, task), transfer: [] };
    case 'file-ahead': {
      warmUp(task.format);
      const frame = frameOf(task.graphic, task.frame);
      const canvas = await renderFile(task.graphic, frame, task.density, task.vectors, turn);
      await turn.pass();
      await makeAhead(canvas, { ...task, ground: frame.slot.ground });
      return { value: null, transfer: [] };
    }
    case 'painted': {
      const frame = frameOf(task.graphic, task.frame);
      const bitmap = await createImageBitmap(await renderFile(task.graphic, frame, task.density, task.vectors, turn));
      return { value: bitmap, transfer: [bitmap] };
    }
    case 'layer-files': {
      const { graphic, density, vectors } = task;
      const made = await layerFiles(graphic, frameOf(graphic, task.frame), density, vectors, turn);
      return { value: made, transfer: [] };
    }
    case 'drawing': {
      const { graphic, density, vectors } = task;
      const made = await drawingOf(graphic, frameOf(graphic, task.frame), density, task, vectors, turn);
      return { value: made, transfer: [] };
    }
    case 'trim':
      return { value: await trim(task), transfer: [] };
    case 'clean':
      return { value: await clean(task.asset), transfer: [] };
    case 'parts':
      return { value: await parts(task), transfer: [] };
    case 'silhouette':
      return { value: await silhouette(task), transfer: [] };
    case 'focus': {
      const seen = task.source instanceof Blob ? await decodeBlob(task.source) : await roughOf(task.source, 2048);
      return { value: focusAndBusy(seen), transfer: [] };
    }
    case 'examine':
      return { value: await examinePicture(task.asset, turn), transfer: [] };
    case 'edges': {
      const facts = await edges(task.need, turn, task.drawn);
      return { value: facts, transfer: [] };
    }
    case 'legibility': {
      const samples = await legibility(task.graphic, frameOf(task.graphic, task.frame), task.vectors, turn);
      return { value: samples, transfer: [] };
    }
    case 'tiles':
      return { value: await tilesFor(task.layout, task.tiles, task.look, task.slot, turn), transfer: [] };
    case 'layouts':
      return { value: await layoutsFor(task.contents, task.look, task.slot, turn), transfer: [] };
    case 'compose':
      return { value: await compose(task.graphic, task.roles, task.subjects, task.slot, turn), transfer: [] };
    case 'ground-map': {
      const map = await groundOf(task.graphic, frameOf(task.graphic, task.frame).slot.ground, task.vectors, turn);
      return { value: map, transfer: [] };
    }
    case 'palette':
      return { value: await paletteFrom(task.pictures), transfer: [] };
    case 'font': {
      const opened = await openFont(task.blob, task.name);
      return { value: opened, transfer: opened.ok ? [opened.value.bytes] : [] };
    }
    case 'least-veil': {
      const found = await strengthFor(task.graphic, frameOf(task.graphic, task.frame), task.veil, task.vectors, turn);
      return { value: found, transfer: [] };
    }
    case 'diagnose-picture':
      return { value: await diagnosePicture(task.blob, task.name), transfer: [] };
    case 'compare-live':
      return { value: await compareLive(task.sent, task.live), transfer: [] };
    case 'shot-open': {
      const opened = await openShot(task.key, task.blob, task.name);
      return { value: opened, transfer: opened.ok ? [opened.value] : [] };
    }
    case 'shot-measure':
      return { value: measureShot(task.key, task.rough, task.density), transfer: [] };
    case 'forget':
      forgetSurfaces();
      forgetPictures();
      forgetFrames();
      forgetPainted();
      forgetHeld();
      forgetAhead();
      return { value: null, transfer: [] };
    case 'shot-close':
      closeShot(task.key);
      return { value: null, transfer: [] };
    case 'miniature': {
      const frame = frameOf(task.graphic, task.frame);
      const scale = task.width / frame.rect.width;
      const done = await render(task.graphic, frame, scale, task.vectors, turn, {}, undefined, task.small);
      return { value: await done.canvas.convertToBlob({ type: 'image/webp', quality: 0.9 }), transfer: [] };
    }
  }
}

/** Our own errors are sentences; what a browser or a library says of itself is for nobody to read. */
function sentenceOf(error: unknown): string {
  const own = error instanceof Error && error.constructor === Error && /^[A-Z“].*\.$/.test(error.message);
  if (own || error instanceof CodeMissing) return error.message;
  console.warn(error);
  return 'The picture could not be prepared: it may be more than this browser has memory for. Try again, or make it smaller.';
}

/** The page has the cores to itself until it stands, ms. */
const WARM_AFTER = 500;
setTimeout(() => void warmReduction(), WARM_AFTER);

addEventListener('message', (event: MessageEvent<unknown>) => {
  const parsed = Request.safeParse(event.data);
  if (!parsed.success) {
    // Whoever asked would wait for ever.
    const id: unknown = (event.data as { id?: unknown } | null)?.id;
    const message =
      'Something of it could not be read by the part that prepares pictures. Reload the page and try again.';
    if (typeof id === 'number') postMessage({ id, problem: { code: 'request', message } } satisfies Reply);
    return;
  }
  if ('cancel' in parsed.data) {
    turns.stop(parsed.data.cancel);
    return;
  }
  const { id, task } = parsed.data;
  const turn = turns.begin(id, ranks[task.kind]);
  const reply = (r: Reply, transfer: Transferable[] = []) => {
    turns.end(id);
    postMessage(r, { transfer });
    if (turns.idle) closeRetired();
  };
  answer(task, turn).then(
    ({ value, transfer }) => reply({ id, answer: value }, transfer),
    (error: unknown) => {
      if (error instanceof Stopped) reply({ id, problem: { code: 'stopped', message: 'Stopped.' } });
      else reply({ id, problem: { code: 'pixels', message: sentenceOf(error) } });
    },
  );
});
