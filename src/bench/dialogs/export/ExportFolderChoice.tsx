'use client';

import { exportFolder } from '@/storage/export-folder';
import { useStored } from '@/storage/use-stored';
import { keepsFolders, pickFolder } from '@/ui/folder-leave';
import { showError } from '@/ui/notify';

/** Where exports go: to the browser's downloads, or into a folder that is asked for once. */
export function ExportFolderChoice() {
  const folder = useStored(() => exportFolder.get().catch(() => undefined), []);
  if (!keepsFolders()) return null;
  const choose = async () => {
    const handle = await pickFolder('exports', 'readwrite');
    if (handle) await exportFolder.set(handle);
  };
  const link = 'underline underline-offset-2';
  return (
    <p className="mt-3 text-sm text-faint">
      {folder ? `Files go into ${folder.name}. ` : 'Files are saved to the downloads folder. '}
      <button type="button" className={link} onClick={() => void choose().catch(showError)}>
        {folder ? 'Another folder' : 'Choose a folder'}
      </button>
      {folder && (
        <>
          {', '}
          <button type="button" className={link} onClick={() => void exportFolder.set(null).catch(showError)}>
            use the downloads folder
          </button>
        </>
      )}
      . Ctrl E repeats the last export.
    </p>
  );
}
