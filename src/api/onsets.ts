import { NamedError } from '@/core/errors';
import type { HeardStroke } from '@/core/onsets/listen';
import { FIELDS } from './fields';
import { answer, numberField, readForm, soundField, wrongField } from './form';
import { runListen } from './listen-job';

/** POST /api/onsets: a WAV file in, where it is struck, by what, and how it may be counted. */
export const onsets = (request: Request): Promise<Response> =>
  answer(async () => {
    const fields = await readForm(request, FIELDS.onsets);
    const sensitivity = await numberField(fields, 'sensitivity');
    if (sensitivity !== undefined && (sensitivity < 0 || sensitivity > 1)) throw wrongField('sensitivity', 'must be from 0 to 1');
    const result = runListen({ bytes: await soundField(fields), ...(sensitivity === undefined ? {} : { sensitivity }) });
    if ('failed' in result) throw new NamedError(result.failed.code, result.failed.details);
    return Response.json('heard' in result ? { ...result.heard, onsets: result.heard.onsets.map(plainly) } : null);
  });

/** What is answered of a stroke: the names of what was struck, without its parts. */
const plainly = ({ seconds, strength, voice, sure, also }: HeardStroke) => ({ seconds, strength, voice, sure, ...(also ? { also } : {}) });
