import { Directive, output, signal } from '@angular/core';
import { droppedFiles, holdsFiles } from './dropped';

/** A place that files are dropped on: says whether some are held over it, and gives what was let go. */
@Directive({
  selector: '[bsFileDrop]',
  host: { '(dragover)': 'over($event)', '(dragleave)': 'leave($event)', '(drop)': 'drop($event)' },
})
export class FileDrop {
  /** Whether files are held over it. */
  readonly held = signal(false);
  readonly files = output<{ readonly files: readonly File[]; readonly event: DragEvent }>();

  protected over(event: DragEvent): void {
    if (!holdsFiles(event)) return;
    event.preventDefault();
    this.held.set(true);
  }

  protected leave(event: DragEvent): void {
    if (event.relatedTarget === null) this.held.set(false);
  }

  protected drop(event: DragEvent): void {
    this.held.set(false);
    const files = droppedFiles(event);
    if (files.length) this.files.emit({ files, event });
  }
}
