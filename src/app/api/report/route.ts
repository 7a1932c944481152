import { report } from '@/api/report';

export const runtime = 'nodejs';
export const POST = report;
