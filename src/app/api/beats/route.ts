import { inChild } from '@/api/children/in-child';
import { FIELDS } from '@/api/fields';

export const runtime = 'nodejs';
export const POST = inChild('beats', FIELDS.beats);
