import { groove } from '@/api/groove';

export const runtime = 'nodejs';
export const POST = groove;
