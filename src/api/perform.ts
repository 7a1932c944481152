import { withFeelGiven, writePart } from '@/batch/perform-file';
import { parseFeel } from '@/formats/feel-format';
import { versionOf } from '@/formats/migrate';
import { parseJson } from '@/formats/validate';
import { hitsOfOrder, orderField } from './order';
import { FIELDS } from './fields';
import { answer, choiceField, partOfFields, readForm, textField, wholeField, wrongField } from './form';
import { HttpError } from './http-error';

/** POST /api/perform: a MIDI file and a feel in, the performed MIDI file out. */
export const perform = (request: Request): Promise<Response> =>
  answer(async () => {
    const fields = await readForm(request, FIELDS.perform);
    const feelText = await textField(fields, 'feel');
    if (feelText === undefined && !fields.has('part'))
      throw new HttpError(400, 'bad-field', 'feel: a feel as JSON is required', { feel: 'required' });
    const raw: unknown = feelText === undefined ? undefined : parseJson(feelText, 'bad-feel');
    const given = raw === undefined ? undefined : parseFeel(raw);
    const keep = (await choiceField(fields, 'keepOtherTracks', ['true', 'false'])) === 'true';
    const ppq = await wholeField(fields, 'ppq');
    const order = await orderField(fields);
    if (order && keep) throw wrongField('order', 'cannot be combined with keepOtherTracks: a song keeps its own order');
    const { part, file } = await partOfFields(fields, (p) => (given ? withFeelGiven(p, given, versionOf('feel', raw) ?? undefined) : p));
    if (keep && !file) throw wrongField('keepOtherTracks', 'the part file has no song');
    const bytes = writePart(
      { ...part, feel: given ?? part.feel },
      file,
      { song: keep, ppq, order },
      order ? hitsOfOrder(part) : part.hits.length,
    );
    return new Response(bytes as Uint8Array<ArrayBuffer>, {
      headers: { 'content-type': 'audio/midi', 'content-disposition': 'attachment; filename="performed.mid"' },
    });
  });
