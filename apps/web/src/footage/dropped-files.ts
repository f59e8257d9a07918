import type { Footage } from '../stores/sending';

/** What is taken for a video, and for a picture of a sequence. */
const VIDEO = /\.(mp4|m4v|mov|mkv|webm|avi|gif|mpg|mpeg|mts|m2ts|ts|3gp|wmv|ogv|mxf)$/i;
const PICTURE = /\.(png|jpe?g)$/i;

/** A file with the folder that it was in; '' for one that was chosen by itself. */
export interface FoundFile {
  file: File;
  folder: string;
}

/** All files of what was dropped, those in folders, too. */
export async function droppedFiles(transfer: DataTransfer): Promise<FoundFile[]> {
  // The list is emptied when the drop is over: entries are taken at once.
  const entries = Array.from(transfer.items)
    .map((item) => item.webkitGetAsEntry())
    .filter((entry) => entry !== null);
  if (entries.length === 0) return Array.from(transfer.files).map((file) => ({ file, folder: '' }));
  return (await Promise.all(entries.map((entry) => filesOf(entry, '')))).flat();
}

async function filesOf(entry: FileSystemEntry, folder: string): Promise<FoundFile[]> {
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject));
    return [{ file, folder }];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const inside: FileSystemEntry[] = [];
  // Entries come a hundred at a time.
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (some.length === 0) break;
    inside.push(...some);
  }
  return (await Promise.all(inside.map((child) => filesOf(child, entry.fullPath)))).flat();
}

/** Files of a folder that was picked. */
export const pickedFiles = (list: FileList): FoundFile[] =>
  Array.from(list).map((file) => ({ file, folder: file.webkitRelativePath.split('/').slice(0, -1).join('/') }));

/** Sequences of pictures, by folder, and what is sent as it is. Files in folders that are neither are left out. */
export function sortFound(found: readonly FoundFile[]): { files: File[]; sequences: Map<string, File[]> } {
  const sequences = new Map<string, File[]>();
  const files: File[] = [];
  for (const { file, folder } of found) {
    if (folder !== '' && PICTURE.test(file.name)) sequences.set(folder, [...(sequences.get(folder) ?? []), file]);
    // What was chosen by itself is sent whatever it is called: the server says what is wrong with it.
    else if (folder === '' || VIDEO.test(file.name)) files.push(file);
  }
  return { files, sequences };
}

/** How the depth of a clip is called beside it (docs/formats.md). */
const DEPTH = /\.depth\.mkv$/i;

/** Clips that were chosen together with their depth become one thing to be sent. */
export function withTheirDepth(files: readonly File[]): Footage[] {
  const stem = ({ name }: File, ending: RegExp): string => name.replace(ending, '').toLowerCase();
  const depths = new Map(files.filter(({ name }) => DEPTH.test(name)).map((file) => [stem(file, DEPTH), file]));
  const taken = new Set<File>();
  const footage = files.map((file): Footage => {
    const depth = DEPTH.test(file.name) || !VIDEO.test(file.name) ? undefined : depths.get(stem(file, VIDEO));
    if (!depth || taken.has(depth)) return file;
    taken.add(depth);
    return Object.assign(new Blob([file, depth]), { name: file.name, depthFrom: file.size });
  });
  return footage.filter((item) => !taken.has(item as File));
}

/** The pictures of a folder, in the order of their names, as one thing to be sent. */
export function asSequence(folder: string, pictures: readonly File[], picturesPerSecond: number): Footage {
  const inOrder = [...pictures].sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }));
  const name = folder.split('/').filter(Boolean).at(-1) ?? 'pictures';
  return Object.assign(new Blob(inOrder), { name, picturesPerSecond });
}
