/** Text of meta events. MIDI names no encoding: UTF-8 is tried first, then Latin-1, which never fails. */

/** More bytes of a text are not looked at: a name is a name. */
const MOST_BYTES = 1024;

/** Control characters have no place in a name. */
const CONTROLS = /\p{Cc}/gu;

/** @example decodeText(new Uint8Array([0x44, 0x72, 0x75, 0x6d])) // 'Drum' */
export function decodeText(all: Uint8Array): string {
  const bytes = all.length <= MOST_BYTES ? all : all.subarray(0, endOfLetter(all));
  let text: string;
  try {
    text = decodeURIComponent(Array.from(bytes, (b) => `%${b.toString(16).padStart(2, '0')}`).join(''));
  } catch {
    text = Array.from(bytes, (b) => String.fromCharCode(b)).join('');
  }
  return text.replace(CONTROLS, '').trim();
}

/** Where to cut, so that no letter of UTF-8 is cut in two: bytes 10xxxxxx go on with one. */
function endOfLetter(bytes: Uint8Array): number {
  let end = MOST_BYTES;
  while (end > MOST_BYTES - 4 && ((bytes[end] as number) & 0xc0) === 0x80) end--;
  return end;
}

/** UTF-8 bytes of a text; lone surrogates become the replacement character. */
export function encodeText(text: string): number[] {
  const bytes: number[] = [];
  for (const [, hex, char] of encodeURIComponent(text.toWellFormed()).matchAll(/%(..)|(.)/g))
    bytes.push(hex ? parseInt(hex, 16) : (char as string).charCodeAt(0));
  return bytes;
}
