// Sends songs through POST /api/perform (grid aligned, swing 60 % on 1/16, other tracks kept) and checks the answer with a formula
// of its own: every drum note to 1 tick at 960 a quarter, every other event unchanged at its tick times the factor.
// usage: npm run check:songs -- http://127.0.0.1:3000 song.mid [song.mid ...]
import { readFileSync, writeFileSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import { basename, join } from 'node:path';
import { tmpdir } from 'node:os';
import { parseMidi } from 'midi-file';

const PERCENT = 60;
const [address, ...files] = process.argv.slice(2);
if (!address || files.length === 0) {
  console.log('usage: npm run check:songs -- http://127.0.0.1:3000 song.mid [song.mid ...]');
  process.exit(2);
}

const post = async (path, fields) => {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields)) form.set(name, value);
  const answer = await fetch(`${address}${path}`, { method: 'POST', body: form });
  if (!answer.ok) throw new Error(`${path}: ${answer.status} ${await answer.text()}`);
  return answer;
};

const absolute = (midi) =>
  midi.tracks.map((track) => {
    let now = 0;
    return track.map(({ deltaTime, running: _r, byte9: _b, ...event }) => ({ tick: (now += deltaTime), event }));
  });
const isDrum = ({ event }) => event.channel === 9 && (event.type === 'noteOn' || event.type === 'noteOff');

/** Bar lines from the file's own meter events, moved by the origin (all in source ticks). */
const barLines = (midi, origin, until) => {
  const ppq = midi.header.ticksPerBeat;
  const meters = absolute(midi)
    .flat()
    .filter((e) => e.event.type === 'timeSignature')
    .map((e) => ({ tick: e.tick, bar: (e.event.numerator * 4 * ppq) / e.event.denominator }));
  if (meters[0]?.tick !== 0) meters.unshift({ tick: 0, bar: 4 * ppq });
  const lines = [];
  for (let b = origin - meters[0].bar; b < origin; b += meters[0].bar) lines.push({ start: b, length: meters[0].bar });
  meters.forEach((m, i) => {
    const end = Math.min(meters[i + 1]?.tick ?? Infinity, until) + origin;
    for (let b = m.tick + origin; b < end; b += m.bar)
      lines.push({ start: b, length: Math.min(m.bar, (meters[i + 1]?.tick ?? Infinity) + origin - b) });
  });
  return lines;
};

/** Swing as its definition says: 0 to 1/16 of the pair, rising to 7/16, full to 9/16, falling to 15/16. */
const swing = (place, pair) => {
  const full = (PERCENT / 100 - 0.5) * pair;
  const u = place / pair;
  if (u <= 1 / 16 || u >= 15 / 16) return 0;
  if (u < 7 / 16) return full * ((u - 1 / 16) / (6 / 16));
  return u <= 9 / 16 ? full : full * ((15 / 16 - u) / (6 / 16));
};

let bad = 0;
for (const file of files) {
  const bytes = new Uint8Array(readFileSync(file));
  const blob = new Blob([bytes]);
  const source = parseMidi(bytes);
  const ppq = source.header.ticksPerBeat;
  const n = Math.max(1, Math.ceil(960 / ppq));
  const report = await (await post('/api/report', { midi: blob, origin: 'auto' })).json();
  const feel = JSON.stringify({ format: 'nod-sway/feel@1', moves: [{ kind: 'swing', division: '1/16', percent: PERCENT }] });
  const out = new Uint8Array(
    await (await post('/api/perform', { midi: blob, feel, keepOtherTracks: 'true', origin: 'auto' })).arrayBuffer(),
  );
  const result = parseMidi(out);

  const before = absolute(source);
  const after = absolute(result);
  const lastTick = Math.max(...before.flat().map((e) => e.tick));
  const lines = barLines(source, report.originTicks, lastTick + 8 * ppq);
  const place = (tick) => {
    let low = 0;
    let high = lines.length - 1;
    while (low < high) {
      const mid = (low + high + 1) >> 1;
      if (lines[mid].start <= tick) low = mid;
      else high = mid - 1;
    }
    const bar = lines[low];
    const pair = ppq / 2;
    const within = tick - bar.start;
    const first = Math.floor(within / pair) * pair;
    return first + pair > bar.length ? tick : tick + swing(within - first, pair);
  };

  // One rule more than the formula: of one key nothing overtakes the stroke before it (swing cannot, so plain order is enough).
  const wanted = before
    .flat()
    .filter((e) => isDrum(e) && e.event.type === 'noteOn' && e.event.velocity > 0)
    .map((e) => ({ tick: Math.max(0, place(e.tick) * n), key: e.event.noteNumber, velocity: e.event.velocity }));
  const got = after
    .flat()
    .filter((e) => isDrum(e) && e.event.type === 'noteOn')
    .map((e) => ({ tick: e.tick, key: e.event.noteNumber, velocity: e.event.velocity }));
  const byKey = (a, b) => a.key - b.key || a.tick - b.tick || a.velocity - b.velocity;
  wanted.sort(byKey);
  got.sort(byKey);
  const off = wanted.map((w, i) => (got[i] && got[i].key === w.key ? Math.abs(got[i].tick - w.tick) : Infinity));
  const worst = Math.max(...off);
  const scale = 960 / (ppq * n);
  const kept = (tracks, factor) =>
    JSON.stringify(
      tracks.map((t) =>
        t
          .filter(
            (e) =>
              !isDrum(e) &&
              e.event.type !== 'endOfTrack' &&
              !(e.event.channel === 9 && ['noteAftertouch', 'channelAftertouch'].includes(e.event.type)) &&
              !(e.event.channel === 9 && e.event.controllerType === 4),
          )
          .map((e) => [e.tick * factor, e.event]),
      ),
    );
  const same = kept(before, n) === kept(after, 1);
  const copy = join(tmpdir(), `checked-${basename(file)}`);
  writeFileSync(copy, out);
  const csv = spawnSync('midicsv', [copy], { encoding: 'utf8', maxBuffer: 1 << 28 });
  const read = csv.error
    ? 'midicsv is not installed'
    : csv.status === 0
      ? `midicsv reads ${csv.stdout.split('\n').length} lines`
      : `midicsv fails: ${csv.stderr}`;
  const ok = worst * scale <= 1 && got.length === wanted.length && same && (csv.error || csv.status === 0);
  if (!ok) bad++;
  console.log(
    `${ok ? 'ok ' : 'BAD'} ${basename(file)}: origin ${report.originTicks} of ${ppq}, ${got.length} of ${wanted.length} drum notes, worst ${(worst * scale).toFixed(3)} ticks at 960, others ${same ? 'unchanged' : 'CHANGED'}, ${read}`,
  );
}
process.exit(bad === 0 ? 0 : 1);
