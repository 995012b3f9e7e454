import { Directive, computed, inject, input, signal } from '@angular/core';
import type { Layer } from '@bright-slot/core';
import { Workbench } from '../../document/workbench';

/** What the sections of a layer's settings have in common: its layer, and the one way to change it. */
@Directive()
export abstract class LayerSection<L extends Layer> {
  readonly layer = input.required<L>();
  protected readonly workbench = inject(Workbench);
  protected readonly canvas = computed(() => this.workbench.graphic()!.canvas);
  protected readonly locked = computed(() => this.layer().locked);

  /** Whether the pixels are being looked at, and what came of it, in words. */
  protected readonly busy = signal(false);
  protected readonly told = signal('');

  /** Work on the pixels that is waited for; it gives what is to be told. */
  protected async during(work: () => Promise<string>): Promise<void> {
    this.busy.set(true);
    this.told.set('');
    try {
      this.told.set(await work());
    } catch (error) {
      this.told.set(error instanceof Error ? error.message : String(error));
    } finally {
      this.busy.set(false);
    }
  }

  /** Shows a change that is not made yet. */
  protected draft(change: Partial<L>, what: string): void {
    const { name, id } = this.layer();
    this.workbench.draft.set({
      type: 'replace-layer',
      layer: { ...this.layer(), ...change },
      name: `${name}: ${what}`,
      merge: `${what}:${id}`,
    });
  }

  /** Makes a change; one of the same `what` that follows joins the step. */
  protected set(change: Partial<L>, what: string): void {
    const { name, id } = this.layer();
    this.workbench.change({ ...this.layer(), ...change }, `${name}: ${what}`, `${what}:${id}`);
  }
}
