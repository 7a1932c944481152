import { NamedError } from '@/core/errors';
import { learnGroove, LEARNT_LEVELS, type LearnOptions } from '@/core/learn/learn';
import { soundingPart } from '@/core/song/sounding';
import { MOST_BEATS, MOST_STEPS_A_BEAT } from '@/core/model/groove';
import { FIELDS } from './fields';
import {
  answer,
  choiceField,
  numberField,
  partOfFields,
  readForm,
  soundField,
  textField,
  wholeField,
  wrongField,
  type Fields,
} from './form';
import { runListen, type ListenJob } from './listen-job';

/** A groove of sound is of so many bars at most. */
const MOST_BARS = 999;

/** What belongs to `audio` alone, and what does not go with it. */
const OF_AUDIO = ['bars', 'meter', 'firstDownbeat'];
const NOT_OF_AUDIO = ['midi', 'part', 'origin', 'channels'];

/** How the bars of a sound are counted. */
async function barsOf(fields: Fields): Promise<NonNullable<ListenJob['groove']>> {
  const clash = NOT_OF_AUDIO.find((name) => fields.has(name));
  if (clash) throw wrongField(clash, 'cannot be combined with audio');
  const bars = await wholeField(fields, 'bars');
  if (bars !== undefined && (bars < 1 || bars > MOST_BARS)) throw wrongField('bars', `must be 1 to ${MOST_BARS}`);
  const text = (await textField(fields, 'meter'))?.trim();
  const meter = text === undefined || text === '' ? undefined : /^(\d{1,2})\/(1|2|4|8|16|32|64)$/.exec(text);
  if (meter === null || (meter && (Number(meter[1]) < 1 || Number(meter[1]) > 64))) throw wrongField('meter', 'must look like 4/4');
  const firstDownbeat = await numberField(fields, 'firstDownbeat');
  if (firstDownbeat !== undefined && firstDownbeat < 0) throw wrongField('firstDownbeat', 'must be in seconds from the start');
  return {
    ...(bars === undefined ? {} : { bars }),
    ...(meter ? { meter: [Number(meter[1]), Number(meter[2])] as const } : {}),
    ...(firstDownbeat === undefined ? {} : { firstDownbeat }),
    options: {},
  };
}

/** POST /api/groove: the groove of a drum part, or of a sound, as groove@1. */
export const groove = (request: Request): Promise<Response> =>
  answer(async () => {
    const fields = await readForm(request, FIELDS.groove);
    const perVoice = await choiceField(fields, 'perVoice', ['true', 'false']);
    const levels = await choiceField(fields, 'levels', LEARNT_LEVELS);
    const beats = await numberField(fields, 'beats');
    if (beats !== undefined && (beats <= 0 || beats > MOST_BEATS))
      throw wrongField('beats', `must be over 0 and at most ${MOST_BEATS} quarter notes`);
    const stepsPerBeat = await wholeField(fields, 'stepsPerBeat');
    if (stepsPerBeat !== undefined && (stepsPerBeat < 1 || stepsPerBeat > MOST_STEPS_A_BEAT))
      throw wrongField('stepsPerBeat', `must be 1 to ${MOST_STEPS_A_BEAT}`);
    const sound = fields.has('audio') ? await barsOf(fields) : null;
    const alone = sound ? undefined : OF_AUDIO.find((field) => fields.has(field));
    if (alone) throw wrongField(alone, 'is only for audio');
    const part = sound ? null : (await partOfFields(fields)).part;
    // A groove of under one step has none.
    const [numerator, denominator] = sound?.meter ?? [part?.meter[0]?.numerator ?? 4, part?.meter[0]?.denominator ?? 4];
    const length = beats ?? (numerator * 4) / denominator;
    if (Math.round(length * (stepsPerBeat ?? 4)) < 1) throw wrongField('beats', 'is shorter than a step');
    const name = (await textField(fields, 'name'))?.trim();
    if (name !== undefined && (name === '' || name.length > 120)) throw wrongField('name', 'must have 1 to 120 characters');
    const voices = (await textField(fields, 'voices'))
      ?.split(',')
      .map((v) => v.trim())
      .filter((v) => v !== '');
    const options: LearnOptions = {
      ...(perVoice === undefined ? {} : { perVoice: perVoice === 'true' }),
      ...(levels === undefined ? {} : { levels }),
      ...(beats === undefined ? {} : { beats }),
      ...(stepsPerBeat === undefined ? {} : { stepsPerBeat }),
      ...(voices && voices.length > 0 ? { voices } : {}),
      name: name ?? 'Extracted groove',
    };
    if (part) return Response.json(learnGroove(soundingPart(part), options));
    const result = runListen({ bytes: await soundField(fields), groove: { ...(sound as NonNullable<ListenJob['groove']>), options } });
    if ('failed' in result) throw new NamedError(result.failed.code, result.failed.details);
    return Response.json('groove' in result ? result.groove : null);
  });
