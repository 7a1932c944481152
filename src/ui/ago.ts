import { intlFormatDistance } from 'date-fns';

/** How far a moment lies from now. @example agoText(Date.now() - 7_200_000) // '2 hours ago' */
export const agoText = (at: number): string => intlFormatDistance(at, Date.now(), { locale: 'en' });
