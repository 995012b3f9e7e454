import { slotsToStart } from '@bright-slot/core';
import { Mounted } from '../testing/mounted';
import { LayoutTiles, tileSize } from './layout-tiles';

const slot = slotsToStart[0]!;
const tries = ['one', 'two', 'three'].map((key) => ({ key, name: `Layout ${key}`, url: '' }));
const open = () => Mounted.of(LayoutTiles, { slot, tries, busy: false });

it('tiles are gone through by arrow keys', async () => {
  const on = await open();
  const buttons = on.all<HTMLButtonElement>('button');
  buttons[0]!.focus();
  await on.key(buttons[0]!, 'ArrowRight');
  expect(document.activeElement).toBe(buttons[1]!);
  await on.key(buttons[1]!, 'ArrowLeft');
  expect(document.activeElement).toBe(buttons[0]!);
});
it('a press takes one, and the pressed one is told apart', async () => {
  const on = await open();
  const heard = on.heard(on.fixture.componentInstance.chosen);
  await on.press('Layout two');
  expect(heard.map((t) => t.key)).toEqual(['two']);
});
it('each picture has its slot’s own proportions', async () => {
  const on = await open();
  const { width, height } = on.find('.picture').getBoundingClientRect();
  expect([width, height]).toEqual([tileSize(slot).width, tileSize(slot).height]);
  expect(Math.abs(width / height / (slot.width / slot.height) - 1)).toBeLessThan(0.03);
});
it('says when all are shown', async () => {
  const on = await open();
  expect(on.find('[role=status]').textContent).toContain('All layouts are shown.');
  await on.set({ busy: true });
  expect(on.find('[role=status]').textContent).toBe('');
});
