import { demo } from '../../../../demo/src/index';
import { ApplicationRef, DestroyRef, signal, type Injector } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';
import { Subject } from 'rxjs';
import {
  applyEdit,
  bad,
  frameFor,
  frameOf,
  good,
  newGraphic,
  plainHouseStyle,
  type Edit,
  type Frame,
  type Graphic,
  type Next,
  SiteRecord,
  neutralLook,
} from '@bright-slot/core';
import { SentFiles } from '../storage/sent-files.service';
import { Sites } from '../storage/sites.service';
import { SiteSending, type ToSend } from './site-sending';
import { SiteClient, type Sending } from '../connector/site-client';
import { FieldsService } from '../document/fields.service';
import { FitReportService } from '../document/fit-report.service';
import { Workbench } from '../document/workbench';
import { GraphicsRepository } from '../storage/graphics-repository';
import { HouseStyleService } from '../storage/house-style.service';
import { rootInjector } from '../testing/root-injector';
import { ExportSession } from './export-session';
import { FileTrials, type MadeTrial } from './file-trials';

const slot = demo.slots.find((s) => s.id === 'blog-header')!;
const graphic = signal<Graphic>(newGraphic({ id: 'g', name: 'Autumn glazes', created: '2026-11-29T00:00:00Z', slot }));
const frame = signal<Frame | null>(null);
const edits: Edit[] = [];
const sent: Sending[] = [];
const frozen: string[] = [];
const noted: { name: string; to: string }[] = [];
const findings = signal<{ id: string; group: string; title: string }[]>([]);
let answer: () => unknown = () => good({ id: 'p1', name: sent.at(-1)!.name, slot: 'blog-header' });
const dialog = { said: undefined as unknown, opened: [] as unknown[] };

/** Sites of the person's own, and what was sent to them. */
const own = signal<SiteRecord[]>([]);
const delivered: ToSend[] = [];
let delivery: () => unknown = () => good({ id: 'f1', address: 'https://shop.example/pics/a.png', name: 'a.png' });
const sending = {
  going: signal(new Map()),
  names: () => Promise.resolve(new Set<string>()),
  send: (_: SiteRecord, what: ToSend) => {
    delivered.push(what);
    return Promise.resolve(delivery());
  },
};

/** Files that were tried, as if they had been made. */
const tried = {
  subject: signal<unknown>(null),
  chosen: signal<unknown>(null),
  tried: signal('chosen'),
  only: signal<string | null>(null),
  most: signal<number | null>(null),
  best: signal(false),
  trials: signal<readonly MadeTrial[]>([]),
  fit: (): readonly MadeTrial[] => tried.trials(),
  early: signal(null),
  problems: signal(new Map()),
  found: signal(false),
  proposal: signal<MadeTrial | null>(null),
  of: (next: Next) => tried.trials().find((t) => t.format === next.format && t.quality === next.quality) ?? null,
  lighter: () => Promise.resolve(null),
};

let injector: Injector & { destroy(): void };
let out: ExportSession;

function edit(e: Edit): void {
  edits.push(e);
  graphic.set(applyEdit(graphic(), e));
  frame.set(frameOf(graphic(), frame()!.id));
}

beforeEach(async () => {
  for (const list of [edits, sent, noted, frozen, dialog.opened, delivered]) list.splice(0);
  own.set([]);
  tried.trials.set([]);
  tried.proposal.set(null);
  tried.found.set(false);
  findings.set([]);
  dialog.said = undefined;
  answer = () => good({ id: 'p1', name: sent.at(-1)!.name, slot: 'blog-header' });
  graphic.set(newGraphic({ id: 'g', name: 'Autumn glazes', created: '2026-11-29T00:00:00Z', slot }));
  frame.set(frameOf(graphic()));
  const site = {
    origin: 'https://site.example',
    site: () => Promise.resolve(good({ names: [], pages: [{ path: '/blog', slots: [{ slot }] }] })),
    send: (s: Sending) => {
      sent.push(s);
      return Promise.resolve(answer());
    },
    show: () => Promise.resolve(good(null)),
  };
  const report = { report: () => ({ findings: findings(), waiting: false }), settled: () => true };
  injector = rootInjector([
    { provide: Workbench, useValue: { graphic, frame, edit } },
    {
      provide: GraphicsRepository,
      useValue: {
        exportedNames: () => Promise.resolve(['autumn-glazes-blog-header-2026-11-29a.png']),
        exportsOf: () => Promise.resolve([]),
        addExport: (e: { name: string; to: string }) => {
          noted.push(e);
          return Promise.resolve();
        },
      },
    },
    { provide: FileTrials, useValue: tried },
    { provide: SiteClient, useValue: site },
    { provide: Sites, useValue: { all: own } },
    { provide: SentFiles, useValue: { all: signal([]) } },
    { provide: SiteSending, useValue: sending },
    { provide: HouseStyleService, useValue: { style: signal(plainHouseStyle) } },
    { provide: FieldsService, useValue: { freeze: (id: string) => void frozen.push(id) } },
    { provide: FitReportService, useValue: report },
    {
      provide: MatDialog,
      useValue: {
        open: (_: unknown, { data }: { data: unknown }) => {
          dialog.opened.push(data);
          const closed = new Subject<unknown>();
          queueMicrotask(() => {
            closed.next(dialog.said);
            closed.complete();
          });
          return { afterClosed: () => closed };
        },
      },
    },
    { provide: DestroyRef, useValue: { onDestroy: () => () => undefined } },
    ExportSession,
  ]);
  out = injector.get(ExportSession);
  await out.begin('g', 'chosen');
});
afterEach(() => injector.destroy());

const asTried = (next: Next, size: number): MadeTrial => ({
  ...next,
  bytes: size,
  difference: { ssim: 1, seen: false, worst: [] },
  blob: new Blob([new Uint8Array(size)]),
  url: 'blob:x',
  width: 940,
  height: 198,
  decoded: 0,
});
const made = (size = 10) => tried.trials.set([asTried(out.choice(), size)]);
const describeAs = (alt: string) =>
  edit({ type: 'set-export', frame: frame()!.id, choices: { alt }, name: 'Description' });

it('names the file by the house’s pattern, and steps past names that were given', () => {
  expect(out.name()).toMatch(/^autumn-glazes-blog-header-\d{4}-\d\d-\d\da\.jpg$/);
  out.typedName.set('Autumn Glazes.jpg');
  expect(out.nameProblem()).toContain('Small letters');
  out.typedName.set('autumn.png');
  expect(out.nameProblem()).toContain('ends in .jpg');
  out.typedName.set('autumn-glazes-blog-header-2026-11-29a.png');
  out.choose('png');
  out.typedName.set('autumn-glazes-blog-header-2026-11-29a.png');
  expect(out.nextFree()).toBe('autumn-glazes-blog-header-2026-11-29b.png');
  expect([out.ready(), out.why()]).toEqual([false, 'The file is being made.']);
});

it('what is chosen is a step of its frame; the same again is none', () => {
  out.choose('webp');
  out.choose('webp');
  const choices = { format: 'webp', quality: 85, chroma: '444', own: true };
  expect(edits).toEqual([{ type: 'set-export', frame: 'main', choices, name: 'Format: WebP' }]);
  out.draftQuality.set(70);
  out.setQuality();
  out.draftQuality.set(70);
  out.setQuality();
  out.setAlt('A shelf');
  out.setAlt('A shelf');
  expect(edits).toHaveLength(3);
  expect(frame()!.export).toMatchObject({ format: 'webp', quality: 70, alt: 'A shelf' });
});

it('where it is chosen by itself, what is about to leave waits until it is found; chosen by the person, it does not', async () => {
  injector.get(ApplicationRef).tick();
  expect(tried.tried()).toBe('proposal');
  made(20);
  expect(out.looking()).toBe(true);
  const lightest = asTried({ format: 'webp', quality: 71, chroma: '444' }, 7);
  setTimeout(() => {
    tried.trials.update((t) => [...t, lightest]);
    tried.proposal.set(lightest);
    tried.found.set(true);
  }, 20);
  expect(await out.made()).toBe(true);
  expect(out.chosen()?.blob?.size).toBe(7);
  tried.found.set(false);
  tried.proposal.set(null);
  out.choose('jpeg');
  injector.get(ApplicationRef).tick();
  expect([tried.tried(), out.looking()]).toEqual(['chosen', false]);
});

it('until the person chooses, the lightest that looks the same is what leaves; once it does, the graphic says so', async () => {
  const lightest = asTried({ format: 'webp', quality: 71, chroma: '444' }, 7);
  tried.trials.set([asTried(out.choice(), 20), lightest]);
  tried.proposal.set(lightest);
  expect([out.format(), out.quality(), out.byItself(), out.chosen()?.blob?.size]).toEqual(['webp', 71, true, 7]);
  expect(out.name()).toMatch(/\.webp$/);
  describeAs('A shelf');
  await out.send();
  expect(sent[0]!.name).toMatch(/\.webp$/);
  expect(frame()!.export).toMatchObject({ format: 'webp', quality: 71 });
  expect(frame()!.export.own).toBeUndefined();
  out.choose('jpeg');
  expect([out.format(), out.byItself()]).toEqual(['jpeg', false]);
  out.chooseByItself();
  expect([out.format(), out.byItself()]).toEqual(['webp', true]);
});

it('a name and its file go together, whatever is proposed while questions are answered', async () => {
  made();
  const lightest = asTried({ format: 'webp', quality: 71, chroma: '444' }, 7);
  dialog.said = 'A shelf';
  const sending = out.send();
  tried.trials.set([...tried.trials(), lightest]);
  tried.proposal.set(lightest);
  await sending;
  expect([sent[0]!.name.split('.').at(-1), sent[0]!.blob.size]).toEqual(['jpg', expect.any(Number)]);
  expect(sent[0]!.blob.size).not.toBe(7);
});

it('only JPEG has a choice of colours: another format chosen after it has none, whatever the graphic says', () => {
  out.choose('jpeg');
  out.setChroma('420');
  expect(out.choice()).toEqual({ format: 'jpeg', quality: 85, chroma: '420' });
  out.choose('webp');
  expect(out.choice()).toEqual({ format: 'webp', quality: 85, chroma: '444' });
  edit({ type: 'set-export', frame: 'main', choices: { chroma: '420' }, name: 'As a fix may leave it' });
  expect(out.choice().chroma).toBe('444');
});

it('a limit of one’s own is kept within what it may be, and taken away again', () => {
  out.setMost(50);
  expect(out.most()).toBe(1000);
  out.setMost(64_000);
  expect([out.most(), edits.length]).toEqual([64_000, 2]);
  out.setMost(64_000);
  out.setMost(null);
  expect([out.most(), edits.length]).toEqual([null, 3]);
});

it('another frame has choices, a name and a description of its own', () => {
  const second = frameFor('b', { x: 0, y: 0, width: 100, height: 50 }, { ...slot, id: 'x', name: 'Card' });
  graphic.set({ ...graphic(), frames: [...graphic().frames, second] });
  describeAs('The first');
  frame.set(frameOf(graphic(), 'b'));
  out.setAlt('The second');
  out.choose('png');
  expect(out.name()).toContain('autumn-glazes-card-');
  expect(graphic().frames.map((f) => [f.export.alt, f.export.format])).toEqual([
    ['The first', 'jpeg'],
    ['The second', 'png'],
  ]);
});

it('asks for a description where there is none, and sends nothing when that is called off', async () => {
  made();
  dialog.said = null;
  await out.send();
  expect(sent).toEqual([]);
  dialog.said = 'A shelf of pots';
  await out.send();
  expect(sent[0]).toMatchObject({ alt: 'A shelf of pots', slot: 'blog-header', graphic: { id: 'g' } });
  expect(frame()!.export.alt).toBe('A shelf of pots');
  expect(out.sent()?.visitor).toBe('https://site.example/blog');
  expect(noted).toMatchObject([{ to: 'site' }]);
  expect(frozen).toEqual(['g']);
});

it('asks once before it sends what the report found something about, and not about the same again', async () => {
  describeAs('A shelf');
  made();
  findings.set([{ id: 'faint:w', group: 'before', title: 'Too faint' }]);
  dialog.said = false;
  await out.send();
  expect([sent.length, dialog.opened]).toEqual([0, [['Too faint']]]);
  dialog.said = true;
  await out.send();
  await out.send();
  expect([sent.length, dialog.opened.length]).toEqual([2, 2]);
});

it('a refusal is told with the next free name, and nothing is noted', async () => {
  describeAs('A shelf');
  made();
  answer = () => ({
    ...bad('taken', 'That name is taken.'),
    problem: { code: 'taken', message: 'That name is taken.', next: 'b.jpg' },
  });
  await out.send();
  expect(out.refused()).toMatchObject({ message: 'That name is taken.', next: 'b.jpg' });
  expect([noted, out.sent(), out.sending()]).toEqual([[], null, false]);
  out.useNext('b.jpg');
  expect([out.name(), out.refused()]).toEqual(['b.jpg', null]);
});

describe('to a site of one’s own', () => {
  const site = (holds: Record<string, string> = {}): SiteRecord =>
    SiteRecord.parse({
      version: 2,
      id: 's',
      name: 'Shop',
      address: 'shop.example',
      way: {
        kind: 'webdav',
        address: 'https://shop.example/dav/',
        user: 'o',
        visitors: 'https://shop.example/pics/',
        plain: false,
        ownNetwork: false,
      },
      look: neutralLook,
      pages: [{ path: '', kind: 'blog', slots: ['blog-header'] }],
      holds,
    });

  it('says before where it will be, sends it there and not to the demo’s, and says where it is', async () => {
    own.set([site()]);
    describeAs('A shelf');
    made();
    expect(out.willBeAt()).toBe(`https://shop.example/pics/${out.name()}`);
    const name = out.name();
    await out.send();
    expect([sent.length, delivered.length]).toEqual([0, 1]);
    expect(delivered[0]).toMatchObject({ name, alt: 'A shelf', graphic: { id: 'g' } });
    expect(out.sent()).toMatchObject({ address: 'https://shop.example/pics/a.png', file: delivered[0]!.id });
    expect(noted).toMatchObject([{ name, to: 'site' }]);
  });

  it('goes under the name that a page holds on to', () => {
    own.set([site({ 'blog-header': 'header.png' })]);
    expect(out.willBeAt()).toBe('https://shop.example/pics/header.png');
    // So it is of the kind that this name says; what the person chose stays theirs, and is refused when it is sent.
    injector.get(ApplicationRef).tick();
    expect([out.format(), out.name().split('.').at(-1), tried.only()]).toEqual(['png', 'png', 'png']);
    out.choose('webp');
    expect(out.format()).toBe('webp');
    own.set([site({ 'blog-header': 'header.gif' })]);
    injector.get(ApplicationRef).tick();
    expect(tried.only()).toBeNull();
  });

  it('where its name is taken there, the next free one is offered; called off, nothing is said', async () => {
    own.set([site()]);
    describeAs('A shelf');
    made();
    delivery = () => ({ ok: false, problem: { code: 'name-taken', message: 'There is one already.', next: 'b.png' } });
    await out.send();
    expect(out.refused()).toMatchObject({ next: 'b.png' });
    delivery = () => ({ ok: false, problem: { code: 'cancelled', message: 'Called off.' } });
    await out.send();
    expect([out.refused(), out.sent(), noted]).toEqual([null, null, []]);
  });
});
