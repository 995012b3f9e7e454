import type { Type } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';

/** A component on the page, as a person and its owner have it. */
export class Mounted<T> {
  readonly host: HTMLElement;

  private constructor(readonly fixture: ComponentFixture<T>) {
    this.host = fixture.nativeElement as HTMLElement;
  }

  static async of<T>(component: Type<T>, inputs: Readonly<Record<string, unknown>> = {}): Promise<Mounted<T>> {
    const fixture = TestBed.createComponent(component);
    for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
    await fixture.whenStable();
    return new Mounted(fixture);
  }

  /** What an output of it gives from now on. */
  heard<V>(output: { subscribe(next: (value: V) => void): unknown }): V[] {
    const all: V[] = [];
    output.subscribe((value) => all.push(value));
    return all;
  }

  async set(inputs: Readonly<Record<string, unknown>>): Promise<void> {
    for (const [name, value] of Object.entries(inputs)) this.fixture.componentRef.setInput(name, value);
    await this.fixture.whenStable();
  }

  find<E extends HTMLElement = HTMLElement>(css: string): E {
    const found = this.host.querySelector<E>(css);
    if (!found) throw new Error(`Nothing matches ${css} in ${this.host.innerHTML.slice(0, 400)}`);
    return found;
  }

  all<E extends HTMLElement = HTMLElement>(css: string): E[] {
    return [...this.host.querySelectorAll<E>(css)];
  }

  /** A field by its label. */
  field(label: string): HTMLInputElement {
    const found = this.all('label').find((l) => l.querySelector('.field-label')?.textContent.trim() === label);
    if (!found) throw new Error(`There is no field called ${label}`);
    return found.querySelector('input')!;
  }

  /** Types into a field, as the browser tells of it. */
  async type(field: HTMLInputElement, text: string): Promise<void> {
    field.value = text;
    field.dispatchEvent(new Event('input', { bubbles: true }));
    await this.fixture.whenStable();
  }

  async leave(field: HTMLInputElement): Promise<void> {
    field.dispatchEvent(new Event('change', { bubbles: true }));
    await this.fixture.whenStable();
  }

  async key(on: HTMLElement, key: string, more: KeyboardEventInit = {}): Promise<void> {
    on.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));
    await this.fixture.whenStable();
  }

  async press(name: string): Promise<void> {
    const found = this.all<HTMLButtonElement>('button').find(
      (b) => b.textContent.trim() === name || b.getAttribute('aria-label') === name,
    );
    if (!found) throw new Error(`There is no button called ${name}`);
    found.click();
    await this.fixture.whenStable();
  }

  /** What it says, as it is seen. */
  get text(): string {
    return this.host.innerText.replaceAll('\u00a0', ' ').replace(/\s+/g, ' ');
  }
}
