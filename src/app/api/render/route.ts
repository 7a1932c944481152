import { render } from '@/api/render';

export const runtime = 'nodejs';
export const POST = render;
