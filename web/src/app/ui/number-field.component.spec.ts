import { TestBed } from '@angular/core/testing';
import { NumberField } from './number-field';

describe('a number field', () => {
  it('takes a sum', async () => {
    const f = TestBed.createComponent(NumberField);
    f.componentRef.setInput('label', 'Width');
    f.componentRef.setInput('value', 10);
    const heard: number[] = [];
    f.componentInstance.changed.subscribe((n) => heard.push(n));
    await f.whenStable();
    const input = (f.nativeElement as HTMLElement).querySelector('input')!;
    input.value = '940/2';
    input.dispatchEvent(new Event('input'));
    input.dispatchEvent(new Event('change'));
    expect(heard).toEqual([470]);
  });
});
