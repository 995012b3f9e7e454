/** Whether something dragged holds files. */
export const holdsFiles = (event: DragEvent): boolean => [...(event.dataTransfer?.types ?? [])].includes('Files');

/** The files that were dropped; none where somebody nearer took them. */
export function droppedFiles(event: DragEvent): File[] {
  const files = event.defaultPrevented ? [] : [...(event.dataTransfer?.files ?? [])];
  if (files.length) event.preventDefault();
  return files;
}

/** The slot that something is dropped on: what stands on the screen for one says so. */
export const slotUnder = (event: DragEvent): string | null =>
  (event.target as Element | null)?.closest<HTMLElement>('[data-slot]')?.dataset['slot'] ?? null;
