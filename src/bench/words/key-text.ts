/** Keys as the platform writes them. */

const SHOWN: Readonly<Record<string, string>> = {
  space: 'Space',
  enter: 'Enter',
  delete: 'Delete',
  backspace: 'Backspace',
  escape: 'Esc',
  left: '←',
  right: '→',
  up: '↑',
  down: '↓',
  pageup: 'Page up',
  pagedown: 'Page down',
  home: 'Home',
  end: 'End',
};
const MAC: Readonly<Record<string, string>> = { mod: '⌘', shift: '⇧', alt: '⌥', delete: '⌦', backspace: '⌫', enter: '↩', escape: 'esc' };
const OTHERS: Readonly<Record<string, string>> = { mod: 'Ctrl', shift: 'Shift', alt: 'Alt' };

const isMac = (): boolean => typeof navigator !== 'undefined' && /mac|iphone|ipad/i.test(navigator.platform);

/**
 * A key of the table as it is written on the keyboard in front of the user.
 * @example keyText('mod+shift+z', false) // 'Ctrl Shift Z'; keyText('mod+shift+z', true) // '⌘⇧Z'; keyText('p h', false) // 'P H'
 */
export function keyText(keys: string, mac = isMac()): string {
  const name = (k: string): string => (mac ? MAC : OTHERS)[k] ?? SHOWN[k] ?? k.toUpperCase();
  return keys
    .split(' ')
    .map((press) =>
      press
        .split('+')
        .map(name)
        .join(mac ? '' : ' '),
    )
    .join(' ');
}
