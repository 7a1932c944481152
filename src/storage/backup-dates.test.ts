import 'fake-indexeddb/auto';
import { BackupDatesStore, daysWithout } from './backup-dates';
import { NodSwayDatabase } from './database';

const DAY = 86_400_000;
/** The first day of work. */
const FIRST = Date.UTC(2026, 0, 1);
const own = { createdAt: FIRST, updatedAt: FIRST + 20 * DAY, head: 3 };
const demo = { createdAt: FIRST, updatedAt: FIRST, head: 0, about: 'A flat import' };

test('a backup is asked for where the last is older than thirty days and something was changed since', () => {
  expect(daysWithout({ last: null, later: null }, [own], FIRST + 29 * DAY)).toBeNull();
  expect(daysWithout({ last: null, later: null }, [own], FIRST + 34.5 * DAY)).toBe(34);
  expect(daysWithout({ last: FIRST + 10 * DAY, later: null }, [own], FIRST + 41 * DAY)).toBe(31);
  expect(daysWithout({ last: FIRST + 21 * DAY, later: null }, [own], FIRST + 60 * DAY)).toBeNull();
  expect(daysWithout({ last: null, later: null }, [demo], FIRST + 90 * DAY)).toBeNull();
  expect(daysWithout({ last: null, later: null }, [], FIRST + 90 * DAY)).toBeNull();
});

test('"later" holds for a week', () => {
  expect(daysWithout({ last: null, later: FIRST + 40 * DAY }, [own], FIRST + 46 * DAY)).toBeNull();
  expect(daysWithout({ last: null, later: FIRST + 40 * DAY }, [own], FIRST + 47 * DAY)).toBe(47);
});

test('the dates are kept', async () => {
  const dates = new BackupDatesStore(new NodSwayDatabase('backup-dates'));
  expect(await dates.get()).toEqual({ last: null, later: null });
  await dates.done(5);
  await dates.putOff(7);
  expect(await dates.get()).toEqual({ last: 5, later: 7 });
});

test('dates that cannot be are no reason to remind', () => {
  const now = Date.UTC(2026, 5, 1);
  const part = { createdAt: 0, updatedAt: 8.64e15, head: 3 };
  expect(daysWithout({ last: null, later: null }, [part], now)).toBeNull();
  const old = { createdAt: now - 40 * 86_400_000, updatedAt: now, head: 1 };
  expect(daysWithout({ last: null, later: null }, [part, old], now)).toBe(40);
});
