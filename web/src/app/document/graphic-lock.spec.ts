import { Injector, runInInjectionContext } from '@angular/core';
import { Store } from '@ngrx/store';
import { BehaviorSubject } from 'rxjs';
import { giveGlobalsBack, putGlobals } from '../testing/globals';
import { FakeLocks } from '../testing/locks';
import { GraphicLock } from './graphic-lock';

let locks: FakeLocks;
beforeEach(() => {
  locks = new FakeLocks();
  putGlobals({ navigator: { locks } });
});

const opened: GraphicLock[] = [];
afterEach(() => {
  giveGlobalsBack();
  for (const lock of opened.splice(0)) (lock as unknown as { channel: BroadcastChannel }).channel.close();
});

/** A tab of its own; `saving` is how many writes of it are under way. */
function tab(saving = new BehaviorSubject(0)) {
  const injector = Injector.create({ providers: [{ provide: Store, useValue: { select: () => saving } }] });
  const lock = runInInjectionContext(injector, () => new GraphicLock());
  opened.push(lock);
  return { lock, saving };
}

const until = async (is: () => boolean, within = 5000) => {
  const end = Date.now() + within;
  while (!is() && Date.now() < end) await new Promise((r) => setTimeout(r, 5));
  expect(is()).toBe(true);
};

it('the first tab writes, the second reads', async () => {
  const [a, b] = [tab(), tab()];
  await a.lock.hold('g');
  await b.lock.hold('g');
  expect([a.lock.writes('g'), b.lock.writes('g'), b.lock.reading()]).toEqual([true, false, true]);
  expect([a.lock.writes('other'), a.lock.writes(undefined)]).toEqual([false, false]);
});

it('asked for twice at once, it is held once', async () => {
  const { lock } = tab();
  await Promise.all([lock.hold('g'), lock.hold('g')]);
  expect(lock.writes('g')).toBe(true);
});

it('is taken over only after the writer has saved what it had in hand', async () => {
  const [a, b] = [tab(new BehaviorSubject(1)), tab()];
  await a.lock.hold('g');
  await b.lock.hold('g');
  const stale: string[] = [];
  b.lock.stale.subscribe((g) => stale.push(g));
  const taking = b.lock.takeOver();
  // The writer hears of it at once and writes no more; it still holds on while its last write is under way.
  await until(() => a.lock.reading());
  await new Promise((r) => setTimeout(r, 60));
  expect(b.lock.writes('g')).toBe(false);
  a.saving.next(0);
  await taking;
  expect([a.lock.writes('g'), b.lock.writes('g')]).toEqual([false, true]);
  // It reads what was saved there.
  expect(stale).toEqual(['g']);
});

it('is stolen from a tab that does not answer, which then reads', async () => {
  const [a, b] = [tab(), tab()];
  await a.lock.hold('g');
  await b.lock.hold('g');
  (a.lock as unknown as { channel: BroadcastChannel }).channel.close();
  await b.lock.takeOver();
  expect(b.lock.writes('g')).toBe(true);
  await until(() => a.lock.reading());
}, 15_000);

it('what was saved here is told to a tab that reads it, and to no other', async () => {
  const [a, b, c] = [tab(), tab(), tab()];
  await a.lock.hold('g');
  await b.lock.hold('g');
  await c.lock.hold('other');
  const heard: string[] = [];
  b.lock.stale.subscribe((g) => heard.push(`b ${g}`));
  c.lock.stale.subscribe((g) => heard.push(`c ${g}`));
  a.lock.changed('g');
  await until(() => heard.length > 0);
  expect(heard).toEqual(['b g']);
});

it('left for a moment it stays, left for good it goes once all is saved', async () => {
  const { lock, saving } = tab();
  const left: string[] = [];
  lock.left.subscribe((g) => left.push(g));
  await lock.hold('g');
  lock.leave('g');
  await lock.hold('g');
  await new Promise((r) => setTimeout(r, 500));
  expect([lock.writes('g'), left]).toEqual([true, []]);
  saving.next(1);
  lock.leave('g');
  await until(() => left.length > 0);
  // Another tab may have it only when the last write is on disk.
  expect(locks.isHeld('graphic:g')).toBe(true);
  saving.next(0);
  await until(() => !locks.isHeld('graphic:g'));
});

it('a lock that is granted after something else was opened is let go', async () => {
  const [a, b] = [tab(), tab()];
  await a.lock.hold('g');
  const first = b.lock.hold('g');
  await b.lock.hold('h');
  await first;
  expect([b.lock.writes('h'), b.lock.writes('g')]).toEqual([true, false]);
});
