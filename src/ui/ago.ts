import { intlFormatDistance } from 'date-fns';

/** How far a moment lies from now. @example agoText(Date.now() - 7_200_000) // '2 hours ago' */
export const agoText = (at: number, now = Date.now()): string => intlFormatDistance(at, now, { locale: 'en' });

/** The same in days. @example inDays(Date.now() + 30 * 86_400_000) // 'in 30 days' */
export const inDays = (at: number, now = Date.now()): string => intlFormatDistance(at, now, { locale: 'en', unit: 'day' });
