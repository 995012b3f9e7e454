/**
 * What of the File System Access API is used (WICG, File System Access, sections 2 and 3; File System Standard, section
 * 5): not every browser has it.
 */
interface FileHandle {
  createWritable(): Promise<{ write(blob: Blob): Promise<void>; close(): Promise<void> }>;
}
export interface Folder {
  readonly name: string;
  getFileHandle(name: string, options?: { create: true }): Promise<FileHandle>;
  /** Absent where a folder needs no leave, as the browser's own. */
  requestPermission?(options: { mode: 'readwrite' }): Promise<'granted' | 'denied' | 'prompt'>;
}
type Picker = (options: { mode: 'readwrite'; id: string }) => Promise<Folder>;
const picker = (): Picker | undefined => (window as unknown as { showDirectoryPicker?: Picker }).showDirectoryPicker;

/** Whether the browser can write into a folder. */
export const canUseFolders = (): boolean => picker() !== undefined;

/** A folder that the person points at; null where none was. */
export async function pickedFolder(): Promise<Folder | null> {
  return picker()!({ mode: 'readwrite', id: 'bright-slot-files' }).catch(() => null);
}

/** What was remembered as a folder, where it is one that may be written to. */
export async function allowedFolder(remembered: unknown): Promise<Folder | null> {
  if (typeof (remembered as Folder | null)?.getFileHandle !== 'function') return null;
  const folder = remembered as Folder;
  const leave = await folder.requestPermission?.({ mode: 'readwrite' }).catch(() => 'denied' as const);
  return leave === undefined || leave === 'granted' ? folder : null;
}

/** The names of those that are in a folder already. */
export async function alreadyIn(folder: Folder, names: readonly string[]): Promise<string[]> {
  const found = await Promise.all(
    names.map((name) =>
      folder.getFileHandle(name).then(
        () => [name],
        (error: unknown) => ((error as { name?: string }).name === 'NotFoundError' ? [] : [name]),
      ),
    ),
  );
  return found.flat();
}

/** Writes a file that is not there yet. */
export async function writeInto(folder: Folder, name: string, blob: Blob): Promise<void> {
  const file = await (await folder.getFileHandle(name, { create: true })).createWritable();
  await file.write(blob);
  await file.close();
}
