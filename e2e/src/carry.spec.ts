// Covers: web/carry, core/compose
import { accessible } from './harness/accessible';
import { withApp } from './harness/suite';
import { settleDemo } from './harness/workbench';

// One finished header carried over to other slots; what is made follows it, and keeps what was changed by hand.
const { app, browser } = withApp();
beforeAll(async () => {
  await settleDemo(browser, app);
});

const text = (css: string) =>
  browser.run<string[]>(`return [...document.querySelectorAll(arguments[0])].map((e) => e.textContent.trim())`, css);
/** All ways are composed and looked at. */
const composed = () =>
  browser.until(
    async () => (await text('aside [role=status]'))[0] === 'All ways are composed.',
    'It was not composed',
    120_000,
  );

it('proposes covers, a card, a tile and an avatar, each composed in a few ways, the best shown', async () => {
  await browser.visit(`${app.app}/graphics/demo-notes`);
  await browser.press('Carry over', 'a');
  await browser.find('.way img', 60_000);
  await composed();
  const names = await text('.all li .tick strong');
  expect(names).toEqual(['Page cover', 'Profile banner', 'Link card', 'Menu tile', 'Round chat avatar']);
  // What stands there is judged by the fit report itself.
  await browser.until(async () => (await text('.all li .fit')).every(Boolean), 'They were not judged', 60_000);
  expect((await text('.all li .fit')).filter((f) => f.includes('to fix'))).toEqual([]);
  // What the ways are ordered by is seen, best first.
  const scores = (await text('aside .choice .figure')).map((t) => parseInt(t, 10));
  expect(scores.length).toBeGreaterThan(2);
  expect([...scores].sort((a, b) => b - a)).toEqual(scores);
  expect(await text('aside dt')).toEqual(['Read', 'Subject', 'Clear', 'Letters', 'Margins', 'Balance', 'Likeness']);
  await accessible(browser);
});

it('another way is a press away, and what a layer is for can be changed', async () => {
  await browser.press('Words in the middle');
  await browser.until(
    async () => (await text('aside .choice[aria-pressed=true]'))[0]!.startsWith('Words in the middle'),
    'The other way was not chosen',
  );
  await (await browser.find('mat-select[aria-label="What Line is for"]')).click();
  await browser.press('note', 'mat-option');
  await composed();
  await browser.until(async () => (await text('.made .role'))[2] === 'note', 'Its role is as it was');
  await (await browser.find('mat-select[aria-label="What Line is for"]')).click();
  await browser.press('line', 'mat-option');
  await composed();
});

it('makes them all by one press, said on both sides', async () => {
  // The avatar is not wanted.
  await (await browser.find('input[aria-label="Make it for Round chat avatar"]')).click();
  await browser.press('Make 4 graphics');
  await browser.seeText('and what was made from it', 60_000);
  await browser.until(async () => (await browser.all('bs-graphic-card')).length === 5, 'Not all were made');
  await browser.seeText('4 made from it');
  expect((await text('bs-graphic-card p')).filter((t) => t.includes('made from Notes from the Wheel'))).toHaveLength(4);
});

it('what was made follows: the rest changes with its source, what was changed by hand stays', async () => {
  await browser.press('Open Notes from the Wheel, Page cover', 'a');
  await browser.layer('Words: Line');
  await browser.fill(await browser.find('bs-settings textarea'), 'a diary, by hand');
  await browser.saved();
  const cover = await browser.driver.getCurrentUrl();
  // The source gets another title.
  await browser.visit(`${app.app}/graphics/demo-notes`);
  await browser.layer('Words: Title');
  await browser.fill(await browser.find('bs-settings textarea'), 'Notes from the Kiln');
  await browser.saved();
  await browser.visit(cover);
  await browser.seeText('was changed:', 30_000);
  expect((await text('.banner')).join()).toContain('Title');
  await browser.press('Follow it');
  await browser.saved();
  await browser.until(
    async () => (await text('li .name')).includes('Title') && (await titleText()).includes('Kiln'),
    'The title did not follow',
  );
  await browser.layer('Words: Line');
  expect(await (await browser.find('bs-settings textarea')).getAttribute('value')).toBe('a diary, by hand');
  // One layer follows again, as one step.
  await browser.press('follows Notes from the Wheel');
  // A menu stands in the overlay, outside the page's regions.
  await accessible(browser, ['region']);
  await browser.press('Line: changed by hand. Follow again');
  await browser.layer('Words: Line');
  await browser.until(
    async () => (await (await browser.find('bs-settings textarea')).getAttribute('value')) === 'a diary from the mill',
    'The line did not follow again',
  );
});

async function titleText(): Promise<string> {
  await browser.layer('Words: Title');
  return (await (await browser.find('bs-settings textarea')).getAttribute('value')) ?? '';
}
