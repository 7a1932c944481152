import { counted, plural } from '@/core/plurals';
import { newId } from '@/editing/ids';
import { shortName } from '@/core/limits';
import { SOUND_KIT_ENDING, writeSoundKit } from '@/formats/sound-kit';
import { recordingsOf, soundsUsed } from '@/sounds/used';
import { fileNameOf } from '@/ui/download';
import type { ExporterSpec } from './exporter';

/** The user's own sounds that a part is played by: given with its file, the part sounds the same elsewhere. */
export const soundKit: ExporterSpec<object> = {
  id: 'sounds',
  title: 'its own sounds',
  about: `as ${SOUND_KIT_ENDING}, to go along with the part’s file`,
  isAvailable: ({ part }) => soundsUsed(part).length > 0,
  initial: () => ({}),
  async run({ part }) {
    const sounds = soundsUsed(part);
    const kit = part.ownKit ?? { id: newId(), name: shortName(`Sounds of ${part.name}`) };
    return {
      data: writeSoundKit(kit, sounds, await recordingsOf(sounds)),
      fileName: `${fileNameOf(part.name)}${SOUND_KIT_ENDING}`,
      type: 'application/zip',
      said: [
        `Wrote ${counted(sounds.length, 'sound')} with ${plural(sounds.length, 'its', 'their')} recordings. Import this file in the other browser and the part finds its sounds.`,
      ],
    };
  },
};
