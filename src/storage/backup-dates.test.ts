import 'fake-indexeddb/auto';
import { BackupDatesStore, daysWithout } from './backup-dates';
import { NodSwayDatabase } from './database';

const DAY = 86_400_000;
const own = { createdAt: 0, updatedAt: 20 * DAY, head: 3 };
const demo = { createdAt: 0, updatedAt: 0, head: 0, about: 'A flat import' };

test('a backup is asked for where the last is older than thirty days and something was changed since', () => {
  expect(daysWithout({ last: null, later: null }, [own], 29 * DAY)).toBeNull();
  expect(daysWithout({ last: null, later: null }, [own], 34.5 * DAY)).toBe(34);
  expect(daysWithout({ last: 10 * DAY, later: null }, [own], 41 * DAY)).toBe(31);
  expect(daysWithout({ last: 21 * DAY, later: null }, [own], 60 * DAY)).toBeNull();
  expect(daysWithout({ last: null, later: null }, [demo], 90 * DAY)).toBeNull();
  expect(daysWithout({ last: null, later: null }, [], 90 * DAY)).toBeNull();
});

test('"later" holds for a week', () => {
  expect(daysWithout({ last: null, later: 40 * DAY }, [own], 46 * DAY)).toBeNull();
  expect(daysWithout({ last: null, later: 40 * DAY }, [own], 47 * DAY)).toBe(47);
});

test('the dates are kept', async () => {
  const dates = new BackupDatesStore(new NodSwayDatabase('backup-dates'));
  expect(await dates.get()).toEqual({ last: null, later: null });
  await dates.done(5);
  await dates.putOff(7);
  expect(await dates.get()).toEqual({ last: 5, later: 7 });
});
