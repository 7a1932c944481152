import { KIT_LIMITS } from '@/core/limits';
import { chosenIn, gatherDrop, walkFolder } from './gather';

const file = (name: string, webkitRelativePath = '') => ({ name, webkitRelativePath }) as File;
/** An entry of a dropped folder; a folder gives its entries two at a time, as a browser gives a hundred. */
const fileEntry = (fullPath: string) => ({
  isFile: true,
  isDirectory: false,
  fullPath,
  file: (done: (f: File) => void) => done(file(fullPath.split('/').pop() as string)),
});
const folderEntry = (fullPath: string, entries: readonly object[]) => ({
  isFile: false,
  isDirectory: true,
  fullPath,
  createReader: () => {
    const left = [...entries];
    return { readEntries: (done: (some: object[]) => void) => done(left.splice(0, 2)) };
  },
});
const drop = (entries: readonly { isDirectory: boolean; fullPath: string }[], files: readonly File[] = []) =>
  ({ items: entries.map((entry) => ({ webkitGetAsEntry: () => entry })), files }) as unknown as DataTransfer;

test('chosen files keep the folders they lie in', () => {
  expect(chosenIn([file('kick.wav', 'Tin shed/kick.wav'), file('snare.wav')]).map((f) => f.path)).toEqual([
    'Tin shed/kick.wav',
    'snare.wav',
  ]);
});

test('dropped files have their own names', async () => {
  const found = await gatherDrop(drop([fileEntry('/kick.wav')], [file('kick.wav')]));
  expect(found.map((f) => f.path)).toEqual(['kick.wav']);
});

test('a dropped folder is walked to its last file, however few are given at a time', async () => {
  const shed = folderEntry('/shed', [
    fileEntry('/shed/kick.wav'),
    fileEntry('/shed/snare.wav'),
    folderEntry('/shed/hats', [fileEntry('/shed/hats/open.wav'), fileEntry('/shed/hats/closed.wav'), fileEntry('/shed/hats/foot.wav')]),
  ]);
  const found = await gatherDrop(drop([shed, fileEntry('/readme.txt')]));
  expect(found.map((f) => f.path).sort()).toEqual([
    'readme.txt',
    'shed/hats/closed.wav',
    'shed/hats/foot.wav',
    'shed/hats/open.wav',
    'shed/kick.wav',
    'shed/snare.wav',
  ]);
});

test('too many files are refused before they are read', async () => {
  const many = folderEntry(
    '/many',
    Array.from({ length: KIT_LIMITS.entries + 1 }, (_, i) => fileEntry(`/many/${i}.wav`)),
  );
  await expect(gatherDrop(drop([many]))).rejects.toMatchObject({ code: 'too-many-sounds' });
});

test('a folder that stays where it is gives its sound files, with their folders', async () => {
  const folder = (entries: Record<string, object>): object => ({
    kind: 'directory',
    entries: async function* () {
      yield* Object.entries(entries);
    },
  });
  const found = await walkFolder(
    folder({
      'kick.wav': { kind: 'file' },
      'notes.txt': { kind: 'file' },
      hats: folder({ 'open.flac': { kind: 'file' }, more: folder({ 'edge.wav': { kind: 'file' } }) }),
    }) as FileSystemDirectoryHandle,
  );
  expect(found.map((f) => f.path)).toEqual(['kick.wav', 'hats/open.flac', 'hats/more/edge.wav']);
});
