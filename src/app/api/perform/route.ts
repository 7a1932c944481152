import { perform } from '@/api/perform';

export const runtime = 'nodejs';
export const POST = perform;
