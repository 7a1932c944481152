/** Hands bytes or text to the user as a file. */
export function download(content: Blob | Uint8Array | string, fileName: string, type: string): void {
  const url = URL.createObjectURL(new Blob([content as BlobPart], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = fileName;
  link.click();
  // The browser needs the address until it has read the file.
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}

/** A part's name as a file name. */
export const fileNameOf = (name: string): string =>
  name
    .trim()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '')
    .toLowerCase() || 'part';
