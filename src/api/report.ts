import { reportPart } from '@/core/analysis/report';
import { soundingPart } from '@/core/song/sounding';
import { GRIDS } from '@/core/time/grid';
import { answer, choiceField, partOfFields, readForm } from './form';

const FIELDS = ['midi', 'part', 'grid', 'origin', 'channels'];

/** POST /api/report: what a drum part is like as written. */
export const report = (request: Request): Promise<Response> =>
  answer(async () => {
    const fields = await readForm(request, FIELDS);
    const grid = await choiceField(fields, 'grid', GRIDS);
    const { part } = await partOfFields(fields);
    return Response.json(reportPart(soundingPart(part), grid));
  });
