import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { MatSliderHarness } from '@angular/material/slider/testing';
import { Mounted } from '../testing/mounted';
import { Choice } from './choice';
import { NumberField } from './number-field';
import { SectionTabs } from './section-tabs';
import { SelectField } from './select-field';
import { SliderField } from './slider-field';
import { TextField } from './text-field';
import { TickField } from './tick-field';

describe('a number field', () => {
  const open = async (inputs: Record<string, unknown> = {}) => {
    const on = await Mounted.of(NumberField, { label: 'Width', value: 100, ...inputs });
    return { on, input: on.find<HTMLInputElement>('input'), heard: on.heard(on.fixture.componentInstance.changed) };
  };
  for (const [typed, taken] of [
    ['940/2', 470],
    ['12 + 0.5', 12.5],
    ['1,5', 1.5],
    ['3 * 7', 21],
  ] as const)
    it(`takes “${typed}” as ${taken}`, async () => {
      const { on, input, heard } = await open({ places: 2 });
      await on.type(input, typed);
      await on.leave(input);
      expect(heard).toEqual([taken]);
    });
  it('says what it does not take, and goes back when it is left', async () => {
    const { on, input, heard } = await open({ min: 1, max: 500 });
    for (const wrong of ['wide', '0', '501', '']) {
      await on.type(input, wrong);
      expect(input.getAttribute('aria-invalid')).toBe('true');
    }
    await on.leave(input);
    expect([input.value, heard]).toEqual(['100', []]);
  });
  it('takes Enter, and Escape back', async () => {
    const { on, input, heard } = await open();
    await on.type(input, '7');
    await on.key(input, 'Escape');
    expect(input.value).toBe('100');
    await on.type(input, '8');
    await on.key(input, 'Enter');
    expect(heard).toEqual([8]);
  });
  it('steps by the arrow keys, ten with Shift, within its limits', async () => {
    const { on, input, heard } = await open({ step: 2, max: 111 });
    await on.key(input, 'ArrowUp');
    await on.key(input, 'ArrowUp', { shiftKey: true });
    await on.key(input, 'ArrowDown');
    expect(heard).toEqual([102, 111, 109]);
  });
  it('follows a value that changes elsewhere', async () => {
    const { on, input } = await open();
    await on.set({ value: 33 });
    expect(input.value).toBe('33');
  });
  it('is unable where it is disabled', async () => {
    const { input } = await open({ disabled: true });
    expect(input.disabled).toBeTrue();
  });
});

describe('a text field', () => {
  it('gives what is typed, letter by letter, with its unit beside it', async () => {
    const on = await Mounted.of(TextField, { label: 'Length', text: '900', unit: 'px' });
    const heard = on.heard(on.fixture.componentInstance.text);
    await on.type(on.field('Length'), '9');
    await on.type(on.field('Length'), '91');
    expect(heard).toEqual(['9', '91']);
    expect(on.find('.unit').textContent).toBe('px');
  });
  it('tells that it is wrong', async () => {
    const on = await Mounted.of(TextField, { label: 'Length', text: 'x', wrong: true });
    expect(on.field('Length').getAttribute('aria-invalid')).toBe('true');
  });
});

describe('a slider', () => {
  const open = async () => {
    const on = await Mounted.of(SliderField, { label: 'Opacity', value: 0.5, usual: 1, share: true });
    const { changed, drafted } = on.fixture.componentInstance;
    return { on, changed: on.heard(changed), drafted: on.heard(drafted) };
  };
  it('gives a share as it is kept, and shows it in hundredths', async () => {
    const { on, changed } = await open();
    const thumb = await (await TestbedHarnessEnvironment.loader(on.fixture).getHarness(MatSliderHarness)).getEndThumb();
    expect(await thumb.getValue()).toBe(50);
    await thumb.setValue(80);
    expect(changed.at(-1)).toBeCloseTo(0.8, 9);
  });
  it('takes a figure, and goes back to what is usual', async () => {
    const { on, changed } = await open();
    const figure = on.field('Opacity, figure');
    await on.type(figure, '25');
    await on.leave(figure);
    await on.press('Opacity as it was, 100');
    expect(changed).toEqual([0.25, 1]);
  });
  it('offers the way back only where something changed', async () => {
    const { on } = await open();
    await on.set({ value: 1 });
    expect(on.find<HTMLButtonElement>('.back').disabled).toBeTrue();
  });
});

describe('a choice, a list and a tick', () => {
  const options = [
    { id: 'a', name: 'Left' },
    { id: 'b', name: 'Right', disabled: true, why: 'There is no room.' },
  ] as const;
  it('a choice presses the one that is chosen, and says why another cannot be', async () => {
    const on = await Mounted.of(Choice, { label: 'Side', options, value: 'a' });
    const [left, right] = on.all<HTMLButtonElement>('button');
    expect(left!.getAttribute('aria-pressed')).toBe('true');
    expect([right!.disabled, right!.title]).toEqual([true, 'There is no room.']);
    const heard = on.heard(on.fixture.componentInstance.chosen);
    left!.click();
    expect(heard).toEqual(['a']);
  });
  it('a list gives only what is on it', async () => {
    const on = await Mounted.of(SelectField, { label: 'Side', options, value: 'a' });
    const heard = on.heard(on.fixture.componentInstance.changed);
    const list = on.find<HTMLSelectElement>('select');
    expect(list.selectedOptions[0]!.textContent).toBe('Left');
    list.value = 'b';
    list.dispatchEvent(new Event('change'));
    list.append(new Option('Elsewhere', 'c'));
    list.value = 'c';
    list.dispatchEvent(new Event('change'));
    expect(heard).toEqual(['b']);
  });
  it('a tick is pressed by its words too', async () => {
    const on = await Mounted.of(TickField, { label: 'Outer gap', ticked: false });
    const heard = on.heard(on.fixture.componentInstance.changed);
    on.find('label').click();
    expect(heard).toEqual([true]);
  });
});

describe('the sections of settings', () => {
  it('are gone between by arrow keys, the open one alone in the order of Tab', async () => {
    const sections = ['Place', 'Look', 'Edge'].map((name) => ({ id: name, name }));
    const on = await Mounted.of(SectionTabs, { sections, open: 'Look' });
    const heard = on.heard(on.fixture.componentInstance.chosen);
    const [place, look, edge] = on.all<HTMLButtonElement>('[role=tab]');
    expect([place, look, edge].map((t) => t!.tabIndex)).toEqual([-1, 0, -1]);
    await on.key(look!, 'ArrowRight');
    expect(document.activeElement).toBe(edge!);
    await on.set({ open: 'Edge' });
    await on.key(edge!, 'ArrowRight');
    await on.key(edge!, 'ArrowLeft');
    expect(heard).toEqual(['Edge', 'Look']);
  });
});
