import { learnGroove } from '@/core/learn/learn';
import { soundingPart } from '@/core/song/sounding';
import { MOST_BEATS, MOST_STEPS_A_BEAT } from '@/core/model/groove';
import { answer, choiceField, numberField, partOfFields, readForm, textField, wholeField, wrongField } from './form';

const FIELDS = ['midi', 'part', 'voices', 'perVoice', 'beats', 'stepsPerBeat', 'name', 'origin', 'channels'];

/** POST /api/groove: the groove of a drum part, as groove@1. */
export const groove = (request: Request): Promise<Response> =>
  answer(async () => {
    const fields = await readForm(request, FIELDS);
    const perVoice = await choiceField(fields, 'perVoice', ['true', 'false']);
    const beats = await numberField(fields, 'beats');
    if (beats !== undefined && (beats <= 0 || beats > MOST_BEATS)) throw wrongField('beats', `must be over 0 and at most ${MOST_BEATS} quarter notes`);
    const stepsPerBeat = await wholeField(fields, 'stepsPerBeat');
    if (stepsPerBeat !== undefined && (stepsPerBeat < 1 || stepsPerBeat > MOST_STEPS_A_BEAT)) throw wrongField('stepsPerBeat', `must be 1 to ${MOST_STEPS_A_BEAT}`);
    const { part } = await partOfFields(fields);
    // A groove of under one step has none.
    const length = beats ?? part.meter.map((m) => (m.numerator * 4) / m.denominator)[0] ?? 4;
    if (Math.round(length * (stepsPerBeat ?? 4)) < 1) throw wrongField('beats', 'is shorter than a step');
    const name = (await textField(fields, 'name'))?.trim();
    if (name !== undefined && (name === '' || name.length > 120)) throw wrongField('name', 'must have 1 to 120 characters');
    const voices = (await textField(fields, 'voices'))?.split(',').map((v) => v.trim()).filter((v) => v !== '');
    return Response.json(learnGroove(soundingPart(part), { perVoice: perVoice === 'true', ...(beats === undefined ? {} : { beats }), ...(stepsPerBeat === undefined ? {} : { stepsPerBeat }), ...(voices && voices.length > 0 ? { voices } : {}), name: name ?? 'Learnt groove' }));
  });
