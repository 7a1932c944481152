export type Leave = 'read' | 'readwrite';
type Asking = FileSystemDirectoryHandle & {
  queryPermission?(o: { mode: Leave }): Promise<PermissionState>;
  requestPermission?(o: { mode: Leave }): Promise<PermissionState>;
};
type PickFolder = (o: { id: string; mode: Leave }) => Promise<FileSystemDirectoryHandle>;

/** Whether the browser gives pages a way to folders that lasts. */
export const keepsFolders = (): boolean => 'showDirectoryPicker' in window;

/** Lets the user choose a folder; null where none was chosen. `id` is what the browser remembers its place by. */
export async function pickFolder(id: string, mode: Leave): Promise<FileSystemDirectoryHandle | null> {
  try {
    return await (window as unknown as { showDirectoryPicker: PickFolder }).showDirectoryPicker({ id, mode });
  } catch (e) {
    if (e instanceof DOMException && e.name === 'AbortError') return null;
    throw e;
  }
}

/** Asks for leave, where it is not given yet; needs a user's action. */
export async function isAllowed(handle: FileSystemDirectoryHandle, mode: Leave): Promise<boolean> {
  const asking = handle as Asking;
  if ((await asking.queryPermission?.({ mode })) === 'granted') return true;
  return asking.requestPermission ? (await asking.requestPermission({ mode })) === 'granted' : true;
}
