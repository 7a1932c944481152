import { execFileSync } from 'node:child_process';
import { existsSync } from 'node:fs';

const FONT = '/usr/share/sounds/sf2/FluidR3_GM.sf2';

/** The general soundfont of Debian's package fluid-soundfont-gm, installed where it is missing. @returns its path */
export function generalSoundFont() {
  if (!existsSync(FONT)) {
    execFileSync('apt-get', ['update'], { stdio: 'inherit' });
    execFileSync('apt-get', ['install', '-y', 'fluid-soundfont-gm'], { stdio: 'inherit' });
  }
  return FONT;
}
