/** The part that was just made of a recording: it plays as soon as the Bench shows it, before anything is asked. */
let arrived: string | null = null;

export const sayArrived = (partId: string): void => {
  arrived = partId;
};

/** Whether this part has just come in; asked once. */
export function hasArrived(partId: string): boolean {
  const is = arrived === partId;
  if (is) arrived = null;
  return is;
}
