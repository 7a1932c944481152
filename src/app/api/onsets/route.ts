import { onsets } from '@/api/onsets';

export const runtime = 'nodejs';
export const POST = onsets;
