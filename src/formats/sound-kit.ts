import Joi from 'joi';
import { zipSync } from 'fflate';
import { NamedError } from '@/core/errors';
import { LONGEST_NAME } from '@/core/limits';
import { MOST_LAYERS, MOST_TAKES, samplesOf, type KitOfRecordings, type OwnSound, type SampleId } from '@/core/model/own-sound';
import { LONGEST_VOICE } from '@/core/row-names';
import { validate } from './validate';

/** A kit of the user's own as a file: a zip of a list and recordings. */

export const SOUND_KIT_ENDING = '.nodkit.zip';
export const MANIFEST = 'manifest.json';

/** The list: takes name their recordings by file instead of by what they hold. */
export interface SoundKitManifest {
  format: 'nod-sway/kit@2';
  id: string;
  name: string;
  sounds: readonly (Omit<OwnSound, 'layers' | 'kit'> & {
    layers: readonly { upTo: number; takes: readonly { file: string; name: string; level: number }[] }[];
  })[];
}

const name = Joi.string().min(1).max(LONGEST_NAME);
const id = Joi.string().min(1).max(60);

const manifestSchema = Joi.object({
  format: Joi.string().valid('nod-sway/kit@2').required(),
  id: id.required(),
  name: name.required(),
  sounds: Joi.array()
    .items(
      Joi.object({
        id: id.required(),
        name: name.required(),
        voice: Joi.string().min(1).max(LONGEST_VOICE).required(),
        cut: Joi.boolean(),
        layers: Joi.array()
          .items(
            Joi.object({
              upTo: Joi.number().integer().min(1).max(127).required(),
              takes: Joi.array()
                .items(
                  Joi.object({
                    file: Joi.string().min(1).max(400).required(),
                    name: name.required(),
                    level: Joi.number().min(-200).max(200).required(),
                  }),
                )
                .min(1)
                .max(MOST_TAKES)
                .required(),
            }),
          )
          .min(1)
          .max(MOST_LAYERS)
          .custom((layers: { upTo: number }[], helpers) =>
            layers.every((l, i) => l.upTo > (layers[i - 1]?.upTo ?? 0)) && layers.at(-1)?.upTo === 127
              ? layers
              : helpers.message({ custom: 'layers: must rise to 127' }),
          )
          .required(),
      }),
    )
    .min(1)
    .max(1024)
    .unique('id')
    .required(),
});

/**
 * Checks the list of a kit against the files that came with it.
 * @throws NamedError bad-sound-kit, naming the member or the missing file
 */
export function readManifest(data: unknown, files: Pick<ReadonlySet<string>, 'has'>): SoundKitManifest {
  const manifest = validate<SoundKitManifest>(manifestSchema, data, 'bad-sound-kit');
  const missing = manifest.sounds.flatMap((s) => s.layers.flatMap((l) => l.takes.map((t) => t.file))).find((file) => !files.has(file));
  if (missing !== undefined)
    throw new NamedError('bad-sound-kit', { missing }, `The kit file is not valid: it names ${missing.slice(0, 80)}, which is not in it.`);
  return manifest;
}

/** Where a recording lies in a zip. */
export const sampleFile = (sample: SampleId): string => `audio/${sample}.wav`;

/** A kit's list: its recordings are named by where they lie. */
export const manifestOf = (kit: KitOfRecordings, sounds: readonly OwnSound[]): SoundKitManifest => ({
  format: 'nod-sway/kit@2',
  id: kit.id,
  name: kit.name,
  sounds: sounds.map(({ kit: _kit, layers, ...sound }) => ({
    ...sound,
    layers: layers.map(({ upTo, takes }) => ({
      upTo,
      takes: takes.map(({ sample, name: file, level }) => ({ file: sampleFile(sample), name: file, level })),
    })),
  })),
});

/** Writes a kit as a zip; recordings that two sounds share are in it once. They are packed as they are: sound hardly shrinks. */
export function writeSoundKit(kit: KitOfRecordings, sounds: readonly OwnSound[], samples: ReadonlyMap<SampleId, Uint8Array>): Uint8Array {
  const files = samplesOf(sounds).map((sample) => {
    const bytes = samples.get(sample);
    if (!bytes) throw new NamedError('bad-sound-kit', { missing: sample }, 'A recording of this kit is no longer here.');
    return [sampleFile(sample), bytes] as const;
  });
  return zipSync(
    { [MANIFEST]: new TextEncoder().encode(JSON.stringify(manifestOf(kit, sounds), null, 1)), ...Object.fromEntries(files) },
    { level: 0, mtime: new Date(1980, 0, 1) },
  );
}
