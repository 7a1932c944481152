/** Where a part is worked on. */
export const benchOf = (partId: string): string => `/bench/${encodeURIComponent(partId)}`;
